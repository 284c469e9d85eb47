import { createRouter, createWebHistory } from 'vue-router'

/** Every station has an address; what it shows is in the query. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/register' },
    { path: '/rulebook', component: () => import('./stations/rulebook/RulebookStation.vue') },
    { path: '/rulebook/compare', component: () => import('./stations/rulebook/ComparePage.vue') },
    { path: '/rulebook/editions', component: () => import('./stations/rulebook/EditionsPage.vue') },
    { path: '/outbox', component: () => import('./stations/outbox/OutboxPage.vue') },
    { path: '/register', component: () => import('./stations/register/RegisterStation.vue') },
    {
      path: '/register/:id',
      component: () => import('./stations/register/MeetingPage.vue'),
      props: true,
    },
    {
      path: '/audit/:id?',
      component: () => import('./stations/audit/AuditStation.vue'),
      props: true,
    },
    {
      path: '/help/:topic?',
      component: () => import('./stations/help/HelpStation.vue'),
      props: true,
    },
    { path: '/:rest(.*)*', component: () => import('./shell/LostPage.vue') },
  ],
})
