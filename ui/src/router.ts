import { createRouter, createWebHistory } from 'vue-router'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/shelf' },
    { path: '/shelf/:material?', name: 'shelf', component: () => import('./stations/shelf/ShelfPage.vue') },
    { path: '/crock/:id?', name: 'crock', component: () => import('./stations/crock/CrockPage.vue') },
    { path: '/bench/:id?', name: 'bench', component: () => import('./stations/bench/BenchPage.vue') },
    { path: '/pantry/:batch?', name: 'pantry', component: () => import('./stations/pantry/PantryPage.vue') },
    { path: '/settings', name: 'settings', component: () => import('./stations/settings/SettingsPage.vue') },
    { path: '/:rest(.*)', redirect: '/shelf' },
  ],
})
