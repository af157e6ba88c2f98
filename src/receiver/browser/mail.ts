import type { Browser, Page } from 'playwright-core'
import { viewerOf } from '#core/proof'
import { type MailRead, type MailWish, type PressSeen, VISITS_ZONE } from '#core/rehearsal'
import { Arrivals } from './arrivals'
import { TypingPerson } from './person'
import { picturedAt } from './pictured'
import { Presses } from './presses'
import { OF_LOOKING } from './waiting'

const ACT_MS = 3_000
const MOST_COMPLAINTS = 10

/**
 * Opens a mail as it came, in a browser with an empty profile, and presses what somebody would: its link, the button of the
 * page that this leads to, what hands over the gift.
 *
 * @param proxy port of the guarded proxy, by which everything goes
 */
export async function readMail(
  browser: Browser,
  proxy: number,
  wish: MailWish,
  { userAgent, patience = 1 }: { userAgent: string; patience?: number },
): Promise<MailRead> {
  const { width, height } = viewerOf('desk')
  const context = await browser.newContext({
    viewport: { width, height },
    screen: { width, height },
    reducedMotion: 'no-preference',
    userAgent,
    timezoneId: VISITS_ZONE,
    acceptDownloads: true,
    serviceWorkers: 'block',
    proxy: { server: `http://127.0.0.1:${proxy}`, bypass: '<-loopback>' },
  })
  context.setDefaultTimeout(ACT_MS * patience)
  try {
    const complaints: string[] = []
    context.on('console', (message) => {
      const text = message.text()
      if (message.type() === 'error' && !OF_LOOKING.test(text) && complaints.length < MOST_COMPLAINTS)
        complaints.push(text.slice(0, 300))
    })
    const page = await context.newPage()
    await page.setContent(wish.html === '' ? asPlain(wish) : wish.html)
    const person = new TypingPerson(page, { viewer: viewerOf('desk'), words: [], patience })
    const arrivals = new Arrivals(context, wish.receiver, patience)
    const presses = new Presses(context, person, arrivals, () => complaints)
    const link = () =>
      person.page
        .locator(`a[href="${wish.link.replaceAll('"', '')}"]`)
        .locator('visible=true')
        .first()
    const seen: PressSeen[] = [await presses.press(link())]
    let picture = await pictureOf(person)
    for (const what of wish.presses) {
      const last = seen.at(-1)!
      // Nothing to go on with, or handed over already.
      if (last.obstacle !== null || last.page === null) break
      seen.push(await presses.press(targetOf(person.page, what)))
      picture = (await pictureOf(person)) ?? picture
    }
    return { presses: seen, picture: picture?.jpeg ?? null, field: picture?.field ?? null }
  } finally {
    const closed = context.close().catch(() => {})
    await Promise.race([closed, new Promise((resolve) => setTimeout(resolve, 2_000).unref())])
  }
}

/** What is pressed on a page of ours. A gift that may be taken so many times has a button of its own behind its link. */
function targetOf(page: Page, what: MailWish['presses'][number]) {
  const button = page.locator('form.press button').locator('visible=true').first()
  return what === 'button' ? button : page.locator('p.gift a').locator('visible=true').first().or(button).first()
}

async function pictureOf(person: TypingPerson) {
  return picturedAt(await person.scrolling(), null, person.page.mainFrame()).catch(() => null)
}

/** As mail programs show a mail that is text alone: its addresses can be pressed. */
function asPlain({ text }: MailWish): string {
  const escaped = text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')
  return `<pre style="white-space:pre-wrap">${escaped.replaceAll(/https?:\/\/[^\s<>"]+/g, (link) => `<a href="${link}">${link}</a>`)}</pre>`
}
