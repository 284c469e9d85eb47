import { t } from '@/wording'
import { createRouter, createWebHistory } from 'vue-router'
import { guardUnsaved } from './shell/unsaved'

declare module 'vue-router' {
  interface RouteMeta {
    /** What the browser's window is called on this page. */
    title: string
    /** Its page begins with no heading of its own: the frame has one for those who hear it. */
    bare?: boolean
    /** It is about one thing, which its address names. */
    one?: boolean
  }
}

/** Every station has an address; what it shows is in the query. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', meta: { title: '' }, component: () => import('./shell/FirstPage.vue') },
    {
      path: '/rulebook',
      meta: { title: t('shell.rulebook'), bare: true },
      component: () => import('./stations/rulebook/RulebookStation.vue'),
    },
    {
      path: '/rulebook/compare',
      meta: { title: t('shell.rulebookCompared') },
      component: () => import('./stations/rulebook/ComparePage.vue'),
    },
    {
      path: '/rulebook/editions',
      meta: { title: t('shell.editions') },
      component: () => import('./stations/rulebook/EditionsPage.vue'),
    },
    {
      path: '/outbox',
      meta: { title: t('shell.messages') },
      component: () => import('./stations/outbox/OutboxPage.vue'),
    },
    {
      path: '/register',
      meta: { title: t('shell.register'), bare: true },
      component: () => import('./stations/register/RegisterStation.vue'),
    },
    {
      path: '/register/new',
      meta: { title: t('shell.scheduleAMeeting') },
      component: () => import('./stations/scheduling/SchedulePage.vue'),
    },
    {
      path: '/register/:id/edit',
      meta: { title: t('shell.changeAMeeting'), one: true },
      component: () => import('./stations/scheduling/SchedulePage.vue'),
      props: true,
    },
    {
      path: '/register/cancelled',
      meta: { title: t('shell.cancelledMeetings') },
      component: () => import('./stations/register/CancelledPage.vue'),
    },
    {
      path: '/corner',
      meta: { title: t('shell.yourMeetings') },
      component: () => import('./stations/corner/HostCorner.vue'),
    },
    {
      path: '/people',
      meta: { title: t('shell.people'), bare: true },
      component: () => import('./stations/people/PeopleStation.vue'),
    },
    {
      path: '/people/groups/:sort?',
      meta: { title: t('shell.groupsOfPeople'), bare: true },
      component: () => import('./stations/people/GroupsPage.vue'),
      props: true,
    },
    {
      path: '/people/:email',
      meta: { title: t('shell.person'), one: true },
      component: () => import('./stations/people/PersonPage.vue'),
      props: true,
    },
    {
      path: '/register/:id',
      meta: { title: t('shell.meeting'), one: true },
      component: () => import('./stations/register/MeetingPage.vue'),
      props: true,
    },
    {
      path: '/lookout',
      meta: { title: t('shell.lookout') },
      component: () => import('./stations/lookout/LookoutStation.vue'),
    },
    {
      path: '/audit/compare',
      meta: { title: t('shell.auditsCompared') },
      component: () => import('./stations/audit/ComparePage.vue'),
    },
    {
      path: '/audit/trends',
      meta: { title: t('shell.trends') },
      component: () => import('./stations/audit/TrendsPage.vue'),
    },
    {
      path: '/audit/remedies',
      meta: { title: t('shell.remedies') },
      component: () => import('./stations/audit/RemediesPage.vue'),
    },
    {
      path: '/audit/requests',
      meta: { title: t('shell.requestsToHosts') },
      component: () => import('./stations/audit/RequestsPage.vue'),
    },
    {
      path: '/audit/waivers',
      meta: { title: t('shell.waivers') },
      component: () => import('./stations/audit/WaiversPage.vue'),
    },
    {
      path: '/audit/runs',
      meta: { title: t('shell.auditsOnRecord') },
      component: () => import('./stations/audit/RunsPage.vue'),
    },
    {
      path: '/audit/:id(\\d+)?',
      meta: { title: t('shell.audit'), bare: true },
      component: () => import('./stations/audit/AuditStation.vue'),
      props: true,
    },
    {
      path: '/floor',
      meta: { title: t('shell.floor') },
      component: () => import('./stations/floor/FloorStation.vue'),
    },
    {
      path: '/floor/:id',
      meta: { title: t('shell.session'), one: true },
      component: () => import('./stations/floor/SessionPage.vue'),
      props: true,
    },
    {
      path: '/floor/:id/after',
      meta: { title: t('shell.afterASession'), one: true },
      component: () => import('./stations/floor/AfterPage.vue'),
      props: true,
    },
    {
      path: '/account',
      meta: { title: t('shell.yourAccount') },
      component: () => import('./stations/account/AccountPage.vue'),
    },
    {
      path: '/welcome',
      meta: { title: t('shell.welcome') },
      component: () => import('./stations/account/WelcomePage.vue'),
    },
    {
      path: '/house/:part(accounts|tokens|directory|conference|calendars|alerts|keeping|service)?',
      meta: { title: t('shell.house'), bare: true },
      component: () => import('./stations/house/HouseStation.vue'),
      props: true,
    },
    {
      path: '/ledger',
      meta: { title: t('shell.ledger'), bare: true },
      component: () => import('./stations/ledger/LedgerStation.vue'),
    },
    {
      path: '/door',
      meta: { title: t('shell.door'), bare: true },
      component: () => import('./stations/door/DoorStation.vue'),
    },
    {
      path: '/help/:topic?',
      meta: { title: t('shell.help') },
      component: () => import('./stations/help/HelpStation.vue'),
      props: true,
    },
    {
      path: '/:rest(.*)*',
      meta: { title: t('shell.noSuchPage'), bare: true },
      component: () => import('./shell/LostPage.vue'),
    },
  ],
})

router.afterEach((to) => {
  document.title = to.meta.title
    ? t('shell.titleUprightWarden', { title: to.meta.title })
    : t('shell.uprightWarden')
})
guardUnsaved(router)
