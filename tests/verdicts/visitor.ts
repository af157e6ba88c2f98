import type { Browser, Frame, Locator, Page } from 'playwright-core'
import { honeypotName } from '#core/form'
import { viewerOf } from '#core/proof'
import { TypingPerson } from '../../src/receiver/browser/person'
import { answeredSoon, until } from '../../src/receiver/browser/waiting'
import * as samples from '../tables/samples'
import type { PageCase } from './cases'

/**
 * What a visitor can do on a page: sign up on the form as it was made, sign up on something that looks or works
 * otherwise, or not sign up at all.
 */
export type Verdict = 'well' | 'poorly' | 'not'

/** How long a visitor waits for something to appear, and for an answer: nothing here is far away. */
const APPEARS_MS = 1_500
const SOON_MS = 300
const ANSWER_MS = 2_000
const LOOK_EVERY_MS = 40

const FIELD = 'input[type=email], input[name=email]'
const BUTTON = 'button, input[type=submit], [role=button]'
const BUTTON_WORDS = /Sign up|Yes please/
const LINK_WORDS = /Sign up|Sample list/
const WORDS = ['Sign up', 'Yes please', 'Sample list']

/**
 * A visitor who knows nothing of Ask Box: looks for a field for her address by its words, moves to it as people do, looks
 * whether the screen shows it, types, presses the button, and reads. Whether she is in the list, somebody else says.
 *
 * @param looks of the button where the code stands whole, to tell what lost its looks; null to find out
 * @param patience by how much longer than usual she waits
 */
export async function signsUp(
  browser: Browser,
  address: string,
  { code }: Pick<PageCase, 'code'>,
  { email, isIn }: { email: string; isIn(): Promise<boolean> },
  { looks, patience = 1 }: { looks: string | null; patience?: number },
): Promise<{ verdict: Verdict; looks: string }> {
  // As a visitor sees it: the test runner's own choice for the workshop is less motion.
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    serviceWorkers: 'block',
    reducedMotion: 'no-preference',
  })
  context.setDefaultTimeout(3_000)
  try {
    // Where this runs through a compiler that names functions.
    await context.addInitScript('globalThis.__name ??= (named) => named')
    const page = await context.newPage()
    await page.goto(address, { waitUntil: 'load' })
    const person = new TypingPerson(page, { viewer: viewerOf('desk'), words: WORDS, patience: 0.25 * patience })
    const isLater = code === 'script' || code === 'frame'
    const field =
      (await until(() => fieldOn(page), (isLater ? APPEARS_MS : SOON_MS) * patience)) ?? (await looksFurther(person))
    return field === null ? NOT : await on(person, field)
  } finally {
    await context.close().catch(() => {})
  }

  /** Down the page, then through a link that says “Sign up”, then by whatever opens it. */
  async function looksFurther(person: TypingPerson): Promise<Locator | null> {
    const { page } = person
    const moved = await person.lookAround(() => fieldOn(page))
    if (moved !== null) return moved
    const link = page.locator('a:visible').filter({ hasText: LINK_WORDS }).first()
    if ((await link.count()) > 0) return throughLink(person, link)
    let field: Locator | null = null
    await person.tryOpeners(page.locator('html'), async () => {
      field = await fieldOn(page)
      // A frame that comes into sight only then loads what is in it.
      return field !== null || (await link.count()) > 0 || (await page.locator('iframe:visible').count()) > 0
    })
    if (field === null && (await link.count()) > 0) return throughLink(person, link)
    return field ?? until(() => fieldOn(page), APPEARS_MS * patience)
  }

  async function throughLink(person: TypingPerson, link: Locator): Promise<Locator | null> {
    const { page } = person
    const at = await person.sight(link, { frame: page.mainFrame() })
    if (!('area' in at)) return null
    await person.pressAt(at)
    return until(async () => {
      const opened = page.context().pages().at(-1)!
      if (opened !== person.page) person.turnToPage(opened)
      return fieldOn(opened)
    }, APPEARS_MS * patience)
  }

  async function on(person: TypingPerson, field: Locator): Promise<{ verdict: Verdict; looks: string }> {
    const frame = await frameOf(field)
    person.within = frame
    if ((await person.frameSeen(frame)) !== null) return NOT
    const at = await person.sight(field)
    if (!('area' in at)) return NOT
    await person.pressAt(at)
    await person.page.keyboard.type(email)
    const found = await frame.evaluate(looksOf, honeypotName(samples.form.id))
    const buttons = frame.locator(BUTTON).filter({ hasText: BUTTON_WORDS })
    for (let one = 0; one < (await buttons.count()); one += 1) {
      const pressed = await person.sight(buttons.nth(one))
      if (!('area' in pressed)) continue
      await person.pressAt(pressed)
      if (!(await answered(person.page))) break
      return { verdict: looks === null || looks === found ? 'well' : 'poorly', looks: found }
    }
    return { ...NOT, looks: found }
  }

  async function answered(page: Page): Promise<boolean> {
    const answer = samples.content.answers.joined.heading
    for (
      const end = performance.now() + ANSWER_MS * patience;
      performance.now() < end;
      await page.waitForTimeout(LOOK_EVERY_MS)
    ) {
      if (!(await isIn())) continue
      const frames = page
        .context()
        .pages()
        .flatMap((one) => one.frames())
      const read = frames.map((one) =>
        one
          .getByText(answer)
          .first()
          .isVisible()
          .catch(() => false),
      )
      if ((await Promise.all(read)).includes(true)) return true
    }
    // On the list and never told, or not on it.
    return false
  }
}

const NOT = { verdict: 'not' as const, looks: '' }

/** A field for an address that is drawn, in whatever frame; one that is shut away may not answer. */
async function fieldOn(page: Page): Promise<Locator | null> {
  for (const frame of page.frames()) {
    const field = await answeredSoon(fieldIn(frame))
    if (field !== null) return field
  }
  return null
}

async function fieldIn(frame: Frame): Promise<Locator | null> {
  const all = frame.locator(FIELD)
  const count = await all.count()
  for (let at = 0; at < count; at += 1) if (await all.nth(at).isVisible()) return all.nth(at)
  return null
}

async function frameOf(one: Locator): Promise<Frame> {
  return (await (await one.elementHandle())!.ownerFrame())!
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
