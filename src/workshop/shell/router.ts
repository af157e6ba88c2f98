import { nextTick } from 'vue'
import { createRouter, createWebHistory, type Router, type RouteRecordRaw, type RouterScrollBehavior } from 'vue-router'
import Desk from '../desk/Desk.vue'
import { useNotices } from '../notices'
import { showTitle } from '../title'

const routes: RouteRecordRaw[] = [
  { path: '/', name: 'desk', component: Desk },
  { path: '/new', name: 'new-form', component: () => import('../new-form/NewForm.vue'), meta: { title: 'New form' } },
  {
    path: '/forms/:id/messages',
    name: 'messages',
    component: () => import('../messages/MessagesPage.vue'),
    props: true,
  },
  {
    path: '/forms/:id/:station?',
    name: 'form',
    component: () => import('../form/FormPage.vue'),
    props: true,
  },
  { path: '/lists', name: 'lists', component: () => import('../lists/Lists.vue'), meta: { title: 'Lists' } },
  {
    path: '/lists/:id',
    name: 'list',
    component: () => import('../lists/ListPage.vue'),
    props: true,
  },
  {
    path: '/lists/:id/import',
    name: 'import',
    component: () => import('../lists/import/ImportPage.vue'),
    props: true,
  },
  {
    path: '/lists/:id/onward',
    name: 'hand-on',
    component: () => import('../connections/HandOnPage.vue'),
    props: true,
  },
  {
    path: '/lists/:id/onward/:handOver',
    name: 'hand-over',
    component: () => import('../connections/HandOverPage.vue'),
    props: true,
  },
  {
    path: '/lists/:id/people/:member/receipts',
    name: 'receipts',
    component: () => import('../lists/person/ReceiptsPage.vue'),
    props: true,
  },
  {
    path: '/lists/:id/people/:member',
    name: 'person',
    component: () => import('../lists/person/PersonPage.vue'),
    props: true,
  },
  { path: '/write', name: 'letters', component: () => import('../letters/Letters.vue'), meta: { title: 'Letters' } },
  {
    path: '/write/sent/:id',
    name: 'sending',
    component: () => import('../letters/SendingPage.vue'),
    props: true,
  },
  {
    path: '/write/series/:id',
    name: 'series',
    component: () => import('../letters/SeriesPage.vue'),
    props: true,
  },
  {
    path: '/write/feeds/:id',
    name: 'feed',
    component: () => import('../letters/FeedPage.vue'),
    props: true,
  },
  {
    path: '/write/:id',
    name: 'letter',
    component: () => import('../letters/LetterPage.vue'),
    props: true,
  },
  {
    path: '/mail-room',
    name: 'mail-room',
    component: () => import('../mail-room/MailRoom.vue'),
    meta: { title: 'Mail room' },
  },
  {
    path: '/results',
    name: 'results',
    component: () => import('../results/Results.vue'),
    meta: { title: 'Results' },
  },
  {
    path: '/results/wordings/:id',
    name: 'trials',
    component: () => import('../results/trials/FormTrials.vue'),
    props: true,
    meta: { title: 'Try other words' },
  },
  {
    path: '/sites/:id',
    name: 'site-pages',
    component: () => import('../sites/SitePages.vue'),
    props: true,
    meta: { title: 'Pages of a site' },
  },
  { path: '/sites', name: 'sites', component: () => import('../sites/Sites.vue'), meta: { title: 'Sites' } },
  {
    path: '/connections/:id?',
    name: 'connections',
    component: () => import('../connections/Connections.vue'),
    props: true,
    meta: { title: 'Connections' },
  },
  {
    path: '/settings',
    name: 'settings',
    component: () => import('../settings/Settings.vue'),
    meta: { title: 'Settings' },
  },
  { path: '/help/:page?', name: 'help', component: () => import('../help/Help.vue'), props: true },
  {
    path: '/:path(.*)*',
    name: 'nowhere',
    component: () => import('../Nowhere.vue'),
  },
]

/** Another page begins at its top, or at the place that the link names; views and stations of one page stay where they are. */
const scrollBehavior: RouterScrollBehavior = (to, from, saved) => {
  if (saved !== null) return saved
  if (to.hash !== '') return { el: to.hash }
  return to.name === from.name && to.params.id === from.params.id ? false : { top: 0 }
}

/** Made after pairing, because it remembers the address as it is then: without the key. */
export function makeRouter(): Router {
  const router = createRouter({ history: createWebHistory(), routes, scrollBehavior })
  let isAtWork = false
  // Whoever has nothing in hand begins at the top of the page, as on any page.
  router.beforeEach(() => void (isAtWork = (document.activeElement ?? document.body) !== document.body))
  router.afterEach(({ name, params, meta: { title } }, from) => {
    if (isAtWork) void toTheWork()
    // What was just done with one form or list is not told beside another; on the way back from it, it is.
    if (from.params.id !== undefined && params.id !== undefined && from.params.id !== params.id) useNotices().clear()
    if (name === 'desk') document.title = 'Ask Box'
    // Others say it themselves: the page of a form or list, which one it is.
    else if (title !== undefined) showTitle(String(title))
  })
  return router
}

/**
 * Whoever went on by a press whose control is gone, as a dialog or “Make the form” is, goes on from the work: the keys would
 * begin at the top of the page otherwise.
 */
async function toTheWork(): Promise<void> {
  await nextTick()
  // A dialog that closes gives the focus back first.
  await new Promise((resolve) => setTimeout(resolve, CLOSING_MS))
  if (document.activeElement === null || document.activeElement === document.body)
    document.getElementById('main')?.focus({ preventScroll: true })
}
const CLOSING_MS = 400
