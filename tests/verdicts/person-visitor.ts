import type { Browser, Frame, Locator, Page } from 'playwright-core'
import { viewerOf } from '#core/proof'
import { Person } from '../../src/receiver/browser/person'
import { until } from '../../src/receiver/browser/waiting'
import * as samples from '../tables/samples'
import type { PageCase } from './cases'

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
 */
export async function signsUpAsAPerson(
  browser: Browser,
  address: string,
  { code }: Pick<PageCase, 'code'>,
  { email, isIn }: { email: string; isIn(): Promise<boolean> },
): Promise<boolean> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' })
  context.setDefaultTimeout(3_000)
  try {
    // Where this runs through a compiler that names functions.
    await context.addInitScript('globalThis.__name ??= (named) => named')
    const page = await context.newPage()
    await page.goto(address, { waitUntil: 'load' })
    const person = new Person(page, { viewer: viewerOf('desk'), words: WORDS, patience: 0.25 })
    const isLater = code === 'script' || code === 'frame'
    const field = (await until(() => fieldOn(page), isLater ? APPEARS_MS : SOON_MS)) ?? (await looksFurther(person))
    return field !== null && (await on(person, field))
  } finally {
    await context.close().catch(() => {})
  }

  /** Down the page, then through a link that says “Sign up”, then by whatever opens it. */
  async function looksFurther(person: Person): Promise<Locator | null> {
    const { page } = person
    const moved = await person.lookAround(() => fieldOn(page))
    if (moved !== null) return moved
    const link = page.locator('a:visible').filter({ hasText: LINK_WORDS }).first()
    if ((await link.count()) > 0) {
      const at = await person.sight(link, { frame: page.mainFrame() })
      if (!('area' in at)) return null
      await person.pressAt(at)
      return until(async () => {
        const opened = page.context().pages().at(-1)!
        if (opened !== person.page) person.turnToPage(opened)
        return fieldOn(opened)
      }, APPEARS_MS)
    }
    let field: Locator | null = null
    await person.tryOpeners(page.locator('html'), async () => (field = await fieldOn(page)) !== null)
    return field
  }

  async function on(person: Person, field: Locator): Promise<boolean> {
    const frame = await frameOf(field)
    person.within = frame
    if ((await person.frameSeen(frame)) !== null) return false
    const at = await person.sight(field)
    if (!('area' in at)) return false
    await person.pressAt(at)
    await person.page.keyboard.type(email)
    const buttons = frame.locator(BUTTON).filter({ hasText: BUTTON_WORDS })
    for (let one = 0; one < (await buttons.count()); one += 1) {
      const pressed = await person.sight(buttons.nth(one))
      if (!('area' in pressed)) continue
      await person.pressAt(pressed)
      return answered(person.page)
    }
    return false
  }

  async function answered(page: Page): Promise<boolean> {
    const answer = samples.content.answers.joined.heading
    for (const end = performance.now() + ANSWER_MS; performance.now() < end; await page.waitForTimeout(LOOK_EVERY_MS)) {
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

/** A field for an address that is drawn, in whatever frame. */
async function fieldOn(page: Page): Promise<Locator | null> {
  for (const frame of page.frames()) {
    const all = frame.locator(FIELD)
    const count = await all.count().catch(() => 0)
    for (let at = 0; at < count; at += 1)
      if (
        await all
          .nth(at)
          .isVisible()
          .catch(() => false)
      )
        return all.nth(at)
  }
  return null
}

async function frameOf(one: Locator): Promise<Frame> {
  return (await (await one.elementHandle())!.ownerFrame())!
}
