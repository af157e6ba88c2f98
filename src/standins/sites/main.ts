import { existsSync, mkdirSync, readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { serve } from '@hono/node-server'
import { codeOf, linkCode, pageAddress, placePart, plainCode, popUpPart, sharedLine } from '#core/embed'
import { readWorkspace } from '#core/workspace'
import { sitesApp, slotFor } from './app'
import { siteOf, sites as pretendSites } from './sites'
import { openSlots, SAMPLE_CODE, type SlotName, type Slots, slotsOf } from './slots'

/**
 * Starts the stand-in sites: `node sites.js [--demo <workspace file>]`. With a demo, the code of its forms
 * stands where their spots say, as if somebody had pasted it. Prints `ready <address>`.
 */
function start(): void {
  const port = Number(process.env.ASKBOX_SITES_PORT || 4320)
  if (!Number.isInteger(port) || port < 0 || port > 65_535) {
    console.error(
      `ASKBOX_SITES_PORT must be a whole number from 0 to 65535, but is “${process.env.ASKBOX_SITES_PORT}”.`,
    )
    process.exit(2)
  }
  const folder = join(process.env.ASKBOX_DATA || resolve('data/receiver'), 'stand-ins')
  mkdirSync(folder, { recursive: true })
  const file = join(folder, 'sites.json')
  const isNew = !existsSync(file)
  const slots = openSlots(file)
  const address = `http://127.0.0.1:${port}`
  const demo = process.argv[process.argv.indexOf('--demo') + 1]
  if (isNew && process.argv.includes('--demo') && demo !== undefined) pasteDemo(slots, demo, address)

  const server = serve({ fetch: sitesApp(slots).fetch, port, hostname: '127.0.0.1' }, () =>
    console.log(`ready ${address}/`),
  )
  server.on('error', (error: NodeJS.ErrnoException) => {
    console.error(
      error.code === 'EADDRINUSE' ? `Port ${port} (ASKBOX_SITES_PORT) is in use by another program.` : error.message,
    )
    process.exit(2)
  })
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => process.exit(0))
}

/** As if their owner had pasted them: each spot's code at its place, and the shared line once a site. */
function pasteDemo(slots: Slots, file: string, address: string): void {
  const receiver = process.env.ASKBOX_PUBLIC_URL || `http://localhost:${process.env.ASKBOX_PORT || 4310}`
  const reading = readWorkspace(readFileSync(file, 'utf8').replaceAll('http://127.0.0.1:4320', address))
  if (!reading.ok) return
  const { sites, spots, versions } = reading.workspace
  for (const spot of spots) {
    const site = sites.find(({ id }) => id === spot.site)
    const version = versions.filter(({ form }) => form === spot.form).at(-1)
    if (site === undefined || version === undefined || !site.address.startsWith(address)) continue
    // Where no page is known, nobody has put it anywhere yet.
    if (spot.page === '' && spot.kind !== 'landing') continue
    const path = new URL(spot.page || site.address).pathname.replace(/\/$/, '')
    const place = siteOf(path)
    if (place === null || place.page === 'listing') continue
    const placed = { content: version.content, form: spot.form, version: version.number, spot: spot.id, receiver }
    const put = (slot: SlotName, code: string) => {
      if (!slotsOf(place.site).includes(slot)) return
      const typed = slots.typed(place.site, slot)
      const before = typed.code === SAMPLE_CODE ? '' : typed.code
      if (!before.includes(code)) slots.save(place.site, slot, { ...typed, code: before + code })
    }
    put('site-head', sharedLine(receiver))
    const { path: page } = place.page
    if (spot.kind === 'landing')
      put(
        `body:${page}`,
        linkCode(version.content, pageAddress(receiver, spot.slug ?? spot.id), { shownAs: 'words', opens: 'here' }),
      )
    else if (spot.kind === 'pop-up') put('site-head', popUpPart(receiver, spot.id))
    else {
      const code = codeOf(spot, site)
      // Nothing is pasted for it: the shared line puts it there.
      if (code === 'rule') continue
      put(
        slotFor(spot.kind, page),
        code === 'script'
          ? placePart(version.content, receiver, spot.id, null)
          : code === 'link'
            ? linkCode(version.content, pageAddress(receiver, spot.id), { shownAs: 'button', opens: 'here' })
            : plainCode(placed),
      )
    }
  }
  for (const site of pretendSites) slots.clearCache(site)
}

start()
