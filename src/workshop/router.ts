import { createRouter, createWebHistory, type Router, type RouteRecordRaw } from 'vue-router'
import Desk from './views/Desk.vue'

const routes: RouteRecordRaw[] = [
  { path: '/', name: 'desk', component: Desk, meta: { title: 'Desk' } },
  { path: '/new', name: 'new-form', component: () => import('./views/NewForm.vue'), meta: { title: 'New form' } },
  {
    path: '/forms/:id/:station?',
    name: 'form',
    component: () => import('./views/FormPage.vue'),
    props: true,
    meta: { title: 'Form' },
  },
  { path: '/lists', name: 'lists', component: () => import('./views/Lists.vue'), meta: { title: 'Lists' } },
  {
    path: '/lists/:id',
    name: 'list',
    component: () => import('./views/ListPage.vue'),
    props: true,
    meta: { title: 'List' },
  },
  { path: '/sites', name: 'sites', component: () => import('./views/Sites.vue'), meta: { title: 'Sites' } },
  { path: '/settings', name: 'settings', component: () => import('./views/Settings.vue'), meta: { title: 'Settings' } },
  {
    path: '/:path(.*)*',
    name: 'nowhere',
    component: () => import('./views/Nowhere.vue'),
    meta: { title: 'Nothing here' },
  },
]

/** Made after pairing, because it remembers the address as it is then: without the key. */
export function makeRouter(): Router {
  const router = createRouter({ history: createWebHistory(), routes })
  router.afterEach((to) => {
    document.title = to.name === 'desk' ? 'Ask Box' : `${String(to.meta.title)} · Ask Box`
  })
  return router
}
