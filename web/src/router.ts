import { createRouter, createWebHistory } from 'vue-router'
import { guardUnsaved } from './shell/unsaved'

declare module 'vue-router' {
  interface RouteMeta {
    /** What the browser's window is called on this page. */
    title: string
    /** Its page begins with no heading of its own: the frame has one for those who hear it. */
    bare?: boolean
  }
}

/** Every station has an address; what it shows is in the query. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', meta: { title: '' }, component: () => import('./shell/FirstPage.vue') },
    {
      path: '/rulebook',
      meta: { title: 'Rulebook', bare: true },
      component: () => import('./stations/rulebook/RulebookStation.vue'),
    },
    {
      path: '/rulebook/compare',
      meta: { title: 'Rulebook, compared' },
      component: () => import('./stations/rulebook/ComparePage.vue'),
    },
    {
      path: '/rulebook/editions',
      meta: { title: 'Editions' },
      component: () => import('./stations/rulebook/EditionsPage.vue'),
    },
    {
      path: '/outbox',
      meta: { title: 'Messages' },
      component: () => import('./stations/outbox/OutboxPage.vue'),
    },
    {
      path: '/register',
      meta: { title: 'Register', bare: true },
      component: () => import('./stations/register/RegisterStation.vue'),
    },
    {
      path: '/register/new',
      meta: { title: 'Schedule a meeting' },
      component: () => import('./stations/scheduling/SchedulePage.vue'),
    },
    {
      path: '/register/:id/edit',
      meta: { title: 'Change a meeting' },
      component: () => import('./stations/scheduling/SchedulePage.vue'),
      props: true,
    },
    {
      path: '/register/cancelled',
      meta: { title: 'Cancelled meetings' },
      component: () => import('./stations/register/CancelledPage.vue'),
    },
    {
      path: '/corner',
      meta: { title: 'Your meetings' },
      component: () => import('./stations/corner/HostCorner.vue'),
    },
    {
      path: '/people',
      meta: { title: 'People', bare: true },
      component: () => import('./stations/people/PeopleStation.vue'),
    },
    {
      path: '/people/groups/:sort?',
      meta: { title: 'Groups of people', bare: true },
      component: () => import('./stations/people/GroupsPage.vue'),
      props: true,
    },
    {
      path: '/people/:email',
      meta: { title: 'Person' },
      component: () => import('./stations/people/PersonPage.vue'),
      props: true,
    },
    {
      path: '/register/:id',
      meta: { title: 'Meeting' },
      component: () => import('./stations/register/MeetingPage.vue'),
      props: true,
    },
    {
      path: '/lookout',
      meta: { title: 'Lookout' },
      component: () => import('./stations/lookout/LookoutStation.vue'),
    },
    {
      path: '/audit/compare',
      meta: { title: 'Audits, compared' },
      component: () => import('./stations/audit/ComparePage.vue'),
    },
    {
      path: '/audit/trends',
      meta: { title: 'Trends' },
      component: () => import('./stations/audit/TrendsPage.vue'),
    },
    {
      path: '/audit/remedies',
      meta: { title: 'Remedies' },
      component: () => import('./stations/audit/RemediesPage.vue'),
    },
    {
      path: '/audit/requests',
      meta: { title: 'Requests to hosts' },
      component: () => import('./stations/audit/RequestsPage.vue'),
    },
    {
      path: '/audit/waivers',
      meta: { title: 'Waivers' },
      component: () => import('./stations/audit/WaiversPage.vue'),
    },
    {
      path: '/audit/runs',
      meta: { title: 'Audits on record' },
      component: () => import('./stations/audit/RunsPage.vue'),
    },
    {
      path: '/audit/:id(\\d+)?',
      meta: { title: 'Audit', bare: true },
      component: () => import('./stations/audit/AuditStation.vue'),
      props: true,
    },
    {
      path: '/floor',
      meta: { title: 'Floor' },
      component: () => import('./stations/floor/FloorStation.vue'),
    },
    {
      path: '/floor/:id',
      meta: { title: 'Session' },
      component: () => import('./stations/floor/SessionPage.vue'),
      props: true,
    },
    {
      path: '/floor/:id/after',
      meta: { title: 'After a session' },
      component: () => import('./stations/floor/AfterPage.vue'),
      props: true,
    },
    {
      path: '/account',
      meta: { title: 'Your account' },
      component: () => import('./stations/account/AccountPage.vue'),
    },
    {
      path: '/welcome',
      meta: { title: 'Welcome' },
      component: () => import('./stations/account/WelcomePage.vue'),
    },
    {
      path: '/house/:part(accounts|tokens|directory|conference|calendars|alerts|keeping|service)?',
      meta: { title: 'House', bare: true },
      component: () => import('./stations/house/HouseStation.vue'),
      props: true,
    },
    {
      path: '/ledger',
      meta: { title: 'Ledger', bare: true },
      component: () => import('./stations/ledger/LedgerStation.vue'),
    },
    {
      path: '/door',
      meta: { title: 'Door', bare: true },
      component: () => import('./stations/door/DoorStation.vue'),
    },
    {
      path: '/help/:topic?',
      meta: { title: 'Help' },
      component: () => import('./stations/help/HelpStation.vue'),
      props: true,
    },
    {
      path: '/:rest(.*)*',
      meta: { title: 'No such page', bare: true },
      component: () => import('./shell/LostPage.vue'),
    },
  ],
})

router.afterEach((to) => {
  document.title = to.meta.title ? `${to.meta.title} · Upright Warden` : 'Upright Warden'
})
guardUnsaved(router)
