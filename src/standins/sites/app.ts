import { Hono } from 'hono'
import { cors } from 'hono/cors'
import { csrf } from 'hono/csrf'
import { z } from 'zod'
import { isLoopback } from '#core/site'
import { allEditors, editorPath, seenAt, siteEditor, slotEditor, slotTitle } from './editor'
import { notFound, sitePage } from './page'
import { sitemapOf } from './sitemap'
import { feedOf, type WrittenPost } from './feed'
import { type PretendSite, siteOf, sites } from './sites'
import { siteAt, type SlotName, type Slots, slotsOf } from './slots'

/** What the workshop asks to have pasted, as an owner would by hand. */
const pasteSchema = z.strictObject({
  /** Address of the page, or of the site where it is a part that all pages share. */
  page: z.string().max(2000),
  place: z.enum(['site-head', 'page-head', 'inline', 'after-post', 'sidebar', 'footer']),
  code: z.string().max(200_000),
})

/** Pretend sites, one of each kind: pages for visitors, and an editor with the manners of that kind. */
export function sitesApp(slots: Slots, now: () => number = Date.now): Hono {
  const app = new Hono()
  const startedAt = now()
  const written = new Map<string, WrittenPost[]>()
  app.use(
    '/paste',
    cors({ origin: (origin) => (isLoopback(hostOf(origin)) ? origin : null), allowHeaders: ['Content-Type'] }),
  )
  app.post('/paste', async (c) => {
    const reading = pasteSchema.safeParse(await c.req.json().catch(() => null))
    if (!reading.success) return c.json({ problem: 'This is nothing to paste.' }, 400)
    const { page, place, code } = reading.data
    const shown = siteOf(pathOf(page))
    if (shown === null) return c.json({ problem: 'There is no such page on this site.' }, 404)
    const { site } = shown
    // Who names only the site gets the newest post, as an owner would who tries it.
    const onPage = shown.page === 'listing' ? site.pages.find(({ date }) => date !== undefined) : shown.page
    if (onPage === undefined) return c.json({ problem: 'There is no such page on this site.' }, 404)
    const slot = slotFor(place, onPage.path)
    if (!slotsOf(site).includes(slot)) return c.json({ problem: 'This kind of site has no such place.' }, 409)
    const typed = slots.typed(site, slot)
    // Heads hold several pieces; everywhere else the new code takes the place of the old.
    const isThere = typed.code.includes(code.trim())
    const isHead = slot === 'site-head' || slot.startsWith('head:')
    slots.save(site, slot, { ...typed, code: isHead ? (isThere ? typed.code : typed.code + code) : code })
    const cachedUntil = slots.cachedUntil(site)
    return c.json({
      where: `${site.name}, ${slotTitle(site, slot)}`,
      seenAt: new URL(seenAt(site, slot), page).href,
      shownFrom: cachedUntil <= now() ? null : new Date(cachedUntil).toISOString(),
    })
  })

  // What somebody writes stands in the site's feed from then on.
  app.post('/editor/:site/post', csrf(), async (c) => {
    const site = siteAt(c.req.param('site'))
    const form = await c.req.parseBody()
    const { title, text } = form
    if (site === undefined || typeof title !== 'string' || typeof text !== 'string' || title.trim() === '')
      return c.html(notFound(), 404)
    written.set(site.key, [...(written.get(site.key) ?? []), { title, text, at: now() }])
    return c.redirect(`/editor/${site.key}`, 303)
  })
  app.get('*', async (c, next) => {
    const { pathname, origin } = new URL(c.req.url)
    const site = sites.find(({ path }) => pathname === `${path}/feed.xml`)
    if (site === undefined) return next()
    return c.body(feedOf(site, written.get(site.key) ?? [], origin, startedAt), 200, {
      'Content-Type': 'application/rss+xml; charset=utf-8',
      ETag: `"${(written.get(site.key) ?? []).length}"`,
    })
  })
  // As sites are found by programs: what may be asked, and which pages there are (RFC 9309; sitemaps.org).
  app.get('/robots.txt', (c) => {
    const { origin } = new URL(c.req.url)
    const maps = sites.map(({ path }) => `Sitemap: ${origin}${path}/sitemap.xml`)
    return c.text(['User-agent: *', 'Disallow: /editor', ...maps, ''].join('\n'))
  })
  app.get('*', async (c, next) => {
    const { pathname, origin } = new URL(c.req.url)
    const site = sites.find(({ path }) => pathname === `${path}/sitemap.xml`)
    if (site === undefined) return next()
    return c.body(sitemapOf(site, origin), 200, { 'Content-Type': 'application/xml; charset=utf-8' })
  })
  app.use(csrf())
  app.get('/editor', (c) => c.html(allEditors()))
  app.get('/editor/:site', (c) => {
    const site = siteAt(c.req.param('site'))
    return site === undefined ? c.html(notFound(), 404) : c.html(siteEditor(site, slots, now()))
  })
  app.post('/editor/:site/clear-cache', (c) => {
    const site = siteAt(c.req.param('site'))
    if (site === undefined) return c.html(notFound(), 404)
    slots.clearCache(site)
    return c.redirect(`/editor/${site.key}`, 303)
  })
  app.get('/editor/:site/:slot', (c) => {
    const place = slotAt(c.req.param('site'), c.req.param('slot'))
    return place === null
      ? c.html(notFound(), 404)
      : c.html(
          slotEditor(place.site, place.slot, slots.typed(place.site, place.slot), c.req.query('saved') !== undefined),
        )
  })
  app.post('/editor/:site/:slot', async (c) => {
    const place = slotAt(c.req.param('site'), c.req.param('slot'))
    if (place === null) return c.html(notFound(), 404)
    const form = await c.req.parseBody()
    const before = slots.typed(place.site, place.slot)
    const read = (name: 'words' | 'code') => (typeof form[name] === 'string' ? form[name] : before[name])
    slots.save(place.site, place.slot, { words: read('words'), code: read('code') })
    return c.redirect(`${editorPath(place.site, place.slot)}?saved`, 303)
  })
  app.get('*', (c) => {
    const place = siteOf(new URL(c.req.url).pathname)
    if (place === null) return c.html(notFound(), 404)
    // RFC 9111, section 5.1: what comes from a cache says how long it was kept.
    const age = slots.age(place.site)
    if (age !== null) c.header('Age', String(age))
    return c.html(sitePage(place.site, place.page, slots))
  })
  app.notFound((c) => c.html(notFound(), 404))
  return app
}

function slotAt(key: string, name: string): { site: PretendSite; slot: SlotName } | null {
  const site = siteAt(key)
  const slot = site && slotsOf(site).find((one) => one === name)
  return site === undefined || slot === undefined ? null : { site, slot }
}

export function slotFor(place: z.infer<typeof pasteSchema>['place'], page: string): SlotName {
  switch (place) {
    case 'page-head':
      return `head:${page}`
    case 'inline':
      return `body:${page}`
    case 'sidebar':
      return 'side'
    default:
      return place
  }
}

function pathOf(address: string): string {
  try {
    return new URL(address).pathname.replace(/\/$/, '')
  } catch {
    return 'nowhere'
  }
}

function hostOf(origin: string): string {
  try {
    return new URL(origin).hostname
  } catch {
    return ''
  }
}
