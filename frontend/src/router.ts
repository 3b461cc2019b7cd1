import { shallowRef, type Component } from 'vue'
import { createRouter, createWebHistory, type RouteLocationRaw } from 'vue-router'
import { counted } from './api/pending'
import { STATIONS } from './shell/stations'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/kit' },
    // a station's code may take its time to come, and that is shown like everything that does
    ...STATIONS.map(({ name, load }) => ({ path: `/${name}`, name, component: () => counted(false, load as () => Promise<Component>) })),
    { path: '/:rest(.*)*', redirect: '/kit' },
  ],
})

/** The station whose code could not be loaded, until another one is reached. */
export const notLoaded = shallowRef<{ name: string, path: string } | null>(null)
router.onError((_, to) => { notLoaded.value = { name: String(to.name ?? ''), path: to.fullPath } })
router.afterEach(() => { notLoaded.value = null })

/** Go somewhere; that its code did not come is said in its place. */
export const go = (to: RouteLocationRaw) => void router.push(to).catch(() => {})
