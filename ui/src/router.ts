import { createRouter, createWebHistory } from 'vue-router'

import './stations'

import { signedIn, wasIn } from './api/session'
import { stations } from './registry'

const first = `/${stations[0]?.name}`

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: first },
    ...stations.map((s) => ({ path: `/${s.name}${s.address ?? ''}`, name: s.name, component: s.page })),
    {
      path: '/j/:token',
      name: 'jar',
      component: () => import('./jar/JarPage.vue'),
      meta: { public: true },
    },
    { path: '/:rest(.*)', redirect: first },
  ],
})

// what is behind the door is not fetched for who stands before it
router.beforeEach(async (to) => {
  if (!to.meta.public && !wasIn()) await signedIn()
})
