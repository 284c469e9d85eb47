import { createRouter, createWebHistory } from 'vue-router'

/** Every station has an address; what it shows is in the query. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', component: () => import('./shell/FirstPage.vue') },
    { path: '/rulebook', component: () => import('./stations/rulebook/RulebookStation.vue') },
    { path: '/rulebook/compare', component: () => import('./stations/rulebook/ComparePage.vue') },
    { path: '/rulebook/editions', component: () => import('./stations/rulebook/EditionsPage.vue') },
    { path: '/outbox', component: () => import('./stations/outbox/OutboxPage.vue') },
    { path: '/register', component: () => import('./stations/register/RegisterStation.vue') },
    { path: '/register/new', component: () => import('./stations/scheduling/SchedulePage.vue') },
    {
      path: '/register/:id/edit',
      component: () => import('./stations/scheduling/SchedulePage.vue'),
      props: true,
    },
    {
      path: '/register/cancelled',
      component: () => import('./stations/register/CancelledPage.vue'),
    },
    { path: '/corner', component: () => import('./stations/corner/HostCorner.vue') },
    { path: '/people', component: () => import('./stations/people/PeopleStation.vue') },
    {
      path: '/people/groups/:sort?',
      component: () => import('./stations/people/GroupsPage.vue'),
      props: true,
    },
    {
      path: '/people/:email',
      component: () => import('./stations/people/PersonPage.vue'),
      props: true,
    },
    {
      path: '/register/:id',
      component: () => import('./stations/register/MeetingPage.vue'),
      props: true,
    },
    { path: '/lookout', component: () => import('./stations/lookout/LookoutStation.vue') },
    { path: '/audit/compare', component: () => import('./stations/audit/ComparePage.vue') },
    { path: '/audit/trends', component: () => import('./stations/audit/TrendsPage.vue') },
    { path: '/audit/remedies', component: () => import('./stations/audit/RemediesPage.vue') },
    { path: '/audit/requests', component: () => import('./stations/audit/RequestsPage.vue') },
    { path: '/audit/waivers', component: () => import('./stations/audit/WaiversPage.vue') },
    { path: '/audit/runs', component: () => import('./stations/audit/RunsPage.vue') },
    {
      path: '/audit/:id(\\d+)?',
      component: () => import('./stations/audit/AuditStation.vue'),
      props: true,
    },
    { path: '/floor', component: () => import('./stations/floor/FloorStation.vue') },
    {
      path: '/floor/:id',
      component: () => import('./stations/floor/SessionPage.vue'),
      props: true,
    },
    {
      path: '/floor/:id/after',
      component: () => import('./stations/floor/AfterPage.vue'),
      props: true,
    },
    { path: '/account', component: () => import('./stations/account/AccountPage.vue') },
    { path: '/welcome', component: () => import('./stations/account/WelcomePage.vue') },
    {
      path: '/house/:part(accounts|tokens|conference|keeping|service)?',
      component: () => import('./stations/house/HouseStation.vue'),
      props: true,
    },
    { path: '/ledger', component: () => import('./stations/ledger/LedgerStation.vue') },
    { path: '/door', component: () => import('./stations/door/DoorStation.vue') },
    {
      path: '/help/:topic?',
      component: () => import('./stations/help/HelpStation.vue'),
      props: true,
    },
    { path: '/:rest(.*)*', component: () => import('./shell/LostPage.vue') },
  ],
})
