import { createRouter, createWebHistory } from 'vue-router'
import { STATIONS } from './shell/stations'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/kit' },
    ...STATIONS.map(({ name, load }) => ({ path: `/${name}`, name, component: load })),
    { path: '/:rest(.*)*', redirect: '/kit' },
  ],
})
