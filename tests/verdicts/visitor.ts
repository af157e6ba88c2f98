import type { Browser, ElementHandle, Frame, Page } from '@playwright/test'
import { honeypotName } from '#core/form'
import * as samples from '../tables/samples'
import type { PageCase } from './cases'

/**
 * What a visitor can do on a page: sign up on the form as it was made, sign up on something that looks or works
 * otherwise, or not sign up at all.
 */
export type Verdict = 'well' | 'poorly' | 'not'

/** How long a visitor waits for something to appear, and for an answer: nothing here is far away. */
const APPEARS_MS = 1_500
const ANSWER_MS = 2_000

/**
 * A visitor who knows nothing of Ask Box: looks for a field for her address by its words, clicks where she sees it, types,
 * clicks the button, and reads. Whether she is in the list, somebody else says.
 *
 * @param looks of the button where the code stands whole, to tell what lost its looks; null to find out
 */
export async function signsUp(
  browser: Browser,
  address: string,
  { code }: Pick<PageCase, 'code'>,
  { email, isIn }: { email: string; isIn(): Promise<boolean> },
  looks: string | null,
): Promise<{ verdict: Verdict; looks: string }> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' })
  try {
    // Where this runs through a compiler that names functions.
    await context.addInitScript('globalThis.__name ??= (named) => named')
    const page = await context.newPage()
    await page.goto(address, { waitUntil: 'load' })
    let field = await appears(page)
    if (field === null) {
      // A closed fold is opened, a notice closed, a link that says “Sign up” followed.
      const fold = page
        .locator('details:not([open]) > summary:visible, button:visible')
        .filter({ hasNotText: /Sign up|Yes please/ })
        .first()
      if ((await fold.count()) > 0) {
        await fold.click()
        field = await appears(page)
      }
      if (field === null) {
        const link = page
          .locator('a:visible')
          .filter({ hasText: /Sign up|Sample list/ })
          .first()
        if ((await link.count()) === 0 || !(await pressed(page, page.mainFrame(), 'a', /Sign up|Sample list/)))
          return { verdict: 'not', looks: '' }
        if (context.pages().length === 1 && page.url() === address)
          await context.waitForEvent('page', { timeout: 500 }).catch(() => {})
        const opened = context.pages().at(-1)!
        field = await appears(opened)
        if (field === null) return { verdict: 'not', looks: '' }
        return await on(opened, field)
      }
    }
    return await on(page, field)
  } finally {
    await context.close()
  }

  async function on(page: Page, { frame, x, y }: Found): Promise<{ verdict: Verdict; looks: string }> {
    await page.mouse.click(x, y)
    await page.keyboard.type(email)
    const found = await frame.evaluate(looksOf, honeypotName(samples.form.id))
    if (!(await pressed(page, frame, 'button, input[type=submit], [role=button]', /Sign up|Yes please/)))
      return { verdict: 'not', looks: found }
    const answer = samples.content.answers.joined.heading
    for (const end = performance.now() + ANSWER_MS; performance.now() < end; await page.waitForTimeout(40)) {
      if (!(await isIn())) continue
      const isRead = await Promise.all(
        page
          .context()
          .pages()
          .flatMap((one) => one.frames())
          .map((one) =>
            one
              .getByText(answer)
              .first()
              .isVisible()
              .catch(() => false),
          ),
      )
      if (isRead.includes(true)) return { verdict: looks === null || looks === found ? 'well' : 'poorly', looks: found }
    }
    // On the list and never told, or not on it.
    return { verdict: 'not', looks: found }
  }

  async function appears(page: Page, ms = APPEARS_MS): Promise<Found | null> {
    // What scripts make comes later than what stands there.
    const until = performance.now() + (code === 'script' || ms < APPEARS_MS || page.frames().length > 1 ? ms : 300)
    // Frames may wait to be scrolled to.
    if (code === 'frame') await page.mouse.wheel(0, 6_000)
    for (;;) {
      for (const frame of page.frames()) {
        const field = frame.locator('input[type=email]:visible, input[name=email]:visible').first()
        const point = await seenAt(frame, field).catch(() => null)
        if (point !== null) return { frame, ...point }
      }
      if (performance.now() > until) return null
      await page.waitForTimeout(40)
    }
  }
}

interface Found {
  frame: Frame
  x: number
  y: number
}

/** Scrolls to an element; the middle of it on the screen where that is what one sees there. */
async function seenAt(frame: Frame, one: ReturnType<Frame['locator']>): Promise<{ x: number; y: number } | null> {
  // In a frame, the frame itself has to be seen: in one that is not, nothing is drawn, and everything waits.
  if (frame.parentFrame() !== null) {
    const element = (await frame.frameElement()) as ElementHandle<Element>
    const isSeen = await element.evaluate((one) => {
      const { width, height } = one.getBoundingClientRect()
      let isFaint = false
      for (let at: Element | null = one; at !== null; at = at.parentElement)
        isFaint ||= Number(getComputedStyle(at).opacity) < 0.05 || /opacity\(0/.test(getComputedStyle(at).filter)
      return width > 2 && height > 2 && !isFaint && one.checkVisibility({ visibilityProperty: true })
    })
    if (!isSeen) return null
  }
  if ((await one.count()) === 0) return null
  const handle = (await one.elementHandle({ timeout: 500 })) as ElementHandle<Element> | null
  if (handle === null) return null
  // By hand: what is scrolled into view by a program may be what nobody could scroll to.
  await handle.scrollIntoViewIfNeeded({ timeout: 500 })
  const box = await handle.boundingBox()
  if (box === null || box.width < 2 || box.height < 2) return null
  const isTop = await handle.evaluate((element: Element) => {
    const { left, top, width, height } = element.getBoundingClientRect()
    const root = element.getRootNode() as Document | ShadowRoot
    const at = root.elementFromPoint(left + width / 2, top + height / 2)
    const above = (one: Element) =>
      one.parentElement ?? ((one.getRootNode() as ShadowRoot).host as Element | undefined) ?? null
    for (let one: Element | null = element; one !== null; one = above(one))
      if (Number(getComputedStyle(one).opacity) < 0.05 || /opacity\(0/.test(getComputedStyle(one).filter)) return false
    return at !== null && (element === at || element.contains(at))
  })
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
  const inWindow = x > 0 && y > 0 && x < 1280 && y < 800
  const around = frame.parentFrame()
  if (around !== null) {
    const hit = await around.evaluate(
      ([left, top]) => document.elementFromPoint(left!, top!)?.localName === 'iframe',
      [x, y],
    )
    if (!hit) return null
  }
  return isTop && inWindow ? { x, y } : null
}

async function pressed(page: Page, frame: Frame, selector: string, words: RegExp): Promise<boolean> {
  const all = frame.locator(selector).filter({ hasText: words })
  const count = await all.count()
  for (let at = 0; at < count; at += 1) {
    const point = await seenAt(frame, all.nth(at)).catch(() => null)
    if (point === null) continue
    await page.mouse.click(point.x, point.y, { delay: 40 })
    await page.waitForLoadState('load', { timeout: 2_000 }).catch(() => {})
    return true
  }
  return false
}

/** What tells a form that lost its looks from one that has them, and one whose trap is in sight. */
function looksOf(trapName: string): string {
  const roots: (Document | ShadowRoot)[] = [document]
  for (const host of document.querySelectorAll('askbox-form')) if (host.shadowRoot) roots.push(host.shadowRoot)
  const all = (selector: string) => roots.flatMap((root) => [...root.querySelectorAll<HTMLElement>(selector)])
  const button = all('form button').find((one) => /Sign up|Yes please/.test(one.textContent ?? ''))
  const trap = all(`[name="${trapName}"]`)[0]
  const style = button && getComputedStyle(button)
  const shown = [...(button?.closest('form')?.elements ?? [])].filter((one) => one.checkVisibility())
  return [
    style?.backgroundColor,
    style?.paddingLeft,
    style?.borderTopLeftRadius,
    trap?.checkVisibility() === true ? 'trap in sight' : '',
    `${shown.length} controls`,
  ].join(' ')
}
