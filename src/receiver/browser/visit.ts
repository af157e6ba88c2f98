import type { Browser, BrowserContextOptions } from 'playwright-core'
import { viewerOf } from '#core/proof'
import { REHEARSAL_HEADER, rehearsalHeader, type Visited, VISITS_ZONE, type VisitWish } from '#core/rehearsal'
import { Hand } from './visitor'
import { ASKED, watchForPrograms } from './in-page'

const ACT_MS = 3_000

/**
 * Opens a page in a browser with an empty profile and uses its form as a person would: moves to it by wheel or finger, looks
 * at what the screen shows, opens what it is behind, types, ticks, presses, and reads what comes. A slow one takes its time,
 * sends nothing, and comes back with what the first visit left.
 *
 * @param proxy port of the guarded proxy, by which everything goes
 * @param code of the rehearsal; `patience` by how much longer than usual it waits; `isDisguised` to tell no page that a program drives it
 * @throws NotOpened
 */
export async function visit(
  browser: Browser,
  proxy: number,
  wish: VisitWish,
  { code, patience = 1, isDisguised = false }: { code: string; patience?: number; isDisguised?: boolean },
): Promise<Visited> {
  const { width, height, isTouch, hasScripts, colours, motion, language } = viewerOf(wish.viewer)
  const options: BrowserContextOptions = {
    viewport: { width, height },
    screen: { width, height },
    isMobile: isTouch,
    hasTouch: isTouch,
    javaScriptEnabled: hasScripts,
    colorScheme: colours,
    reducedMotion: motion,
    locale: language,
    userAgent: await agentOf(browser),
    timezoneId: VISITS_ZONE,
    acceptDownloads: wish.takesGift === true,
    // One that a page leaves behind is met when its visitors come back.
    serviceWorkers: wish.isSlow === true ? 'allow' : 'block',
    proxy: { server: `http://127.0.0.1:${proxy}`, bypass: '<-loopback>' },
  }
  const context = await browser.newContext(options)
  context.setDefaultTimeout(ACT_MS * patience)
  try {
    const { wording } = wish
    if (wording !== undefined) {
      const { origin } = new URL(wish.action)
      const isShown = ({ origin: from, pathname }: URL) => from === origin && SHOWN.test(pathname)
      const headers = { [REHEARSAL_HEADER.toLowerCase()]: rehearsalHeader(code, undefined, wording) }
      await context.route(isShown, (route) => route.continue({ headers: { ...route.request().headers(), ...headers } }))
    }
    if (hasScripts) await context.addInitScript(watchForPrograms, { isDisguised, key: ASKED })
    const first = new Hand(context, await context.newPage(), wish, patience)
    if (wish.isSlow !== true) return await first.go()
    const seen = await first.slowly()
    if (!seen.isThere || seen.obstacle !== null) return seen
    await first.leave()
    const again = await new Hand(
      context,
      await context.newPage(),
      { ...wish, isSlow: false, presses: 0 },
      patience,
    ).go()
    const isMet = again.isThere && again.obstacle === null
    return { ...again, remarks: [...seen.remarks, ...(isMet ? [] : [ON_RETURN]), ...again.remarks], isReturn: true }
  } finally {
    // One that hangs is not waited for: it ends with its browser.
    const closed = context.close().catch(() => {})
    await Promise.race([closed, new Promise((resolve) => setTimeout(resolve, 2_000).unref())])
  }
}

/** Where the receiver shows forms. */
const SHOWN = /^\/(?:form|frame|page)\//

const ON_RETURN = 'The first visit went well. This was found on coming back, with what that visit left in the browser.'

/** A site may show other pages to what says that it has no window. */
const agents = new WeakMap<Browser, Promise<string>>()
export function agentOf(browser: Browser): Promise<string> {
  const sameAgent = agents.get(browser)
  if (sameAgent !== undefined) return sameAgent
  const asked = (async () => {
    const page = await browser.newPage()
    const agent = await page.evaluate(() => navigator.userAgent)
    await page.close()
    return agent.replace('Headless', '')
  })()
  agents.set(browser, asked)
  return asked
}
