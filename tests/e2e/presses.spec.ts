import type { Browser, BrowserContext, Frame, Locator, Page } from '@playwright/test'
import { changeSpot } from '../api'
import type { RunningBox } from '../programs'
import { isOfThisRun } from '../seed'
import { expect, type MadeSite, test } from './pages'
import {
  type AnswerKind,
  answerKinds,
  type Joining,
  type PressGround,
  pressGround,
  startOwnPages,
} from './presses-ground'

/*
 * Every press that a visitor can make, in pairs: what answers by the way that the form stands there, what answers by the
 * mail's links, and what is done again by both. Each is pressed in Chromium; asserted are where the window is, what is read,
 * what the browser complained of, what the list holds, and which mails came.
 */

test.use({ withMailbox: true })

/** Nothing waits this long; a machine busy with other work may. */
const PATIENCE_MS = Number(process.env.ASKBOX_PATIENCE ?? 60_000)
/** Of all pairs, a short and a whole run try one in so many. */
const PARTS = [12, 4] as const

test.describe.configure({ timeout: Math.min(600_000, PATIENCE_MS * 10) })

interface Way {
  name: string
  code: 'plain' | 'script' | 'frame' | 'pop-up' | 'rule' | 'landing'
  scripts: boolean
  /** The sandbox of a frame of a site builder's around the code. */
  sandbox?: string
  /** Sent with a wrong address first, which a page of ours asks for again. */
  isCorrected?: true
}

const ways: Way[] = [
  { name: 'plain code', code: 'plain', scripts: true },
  { name: 'plain code, scripts off', code: 'plain', scripts: false },
  { name: 'plain code, corrected', code: 'plain', scripts: false, isCorrected: true },
  {
    name: 'plain code in a sandboxed frame',
    code: 'plain',
    scripts: true,
    sandbox: 'allow-scripts allow-forms allow-popups allow-downloads',
  },
  { name: 'script', code: 'script', scripts: true },
  {
    name: 'script in a sandboxed frame',
    code: 'script',
    scripts: true,
    sandbox: 'allow-scripts allow-forms allow-popups allow-downloads',
  },
  { name: 'frame', code: 'frame', scripts: true },
  { name: 'frame, scripts off', code: 'frame', scripts: false },
  {
    name: 'frame in a sandboxed frame',
    code: 'frame',
    scripts: true,
    sandbox: 'allow-scripts allow-forms allow-popups allow-downloads',
  },
  {
    name: 'frame in a frame that may be left',
    code: 'frame',
    scripts: true,
    sandbox: 'allow-scripts allow-forms allow-top-navigation allow-downloads',
  },
  {
    name: 'frame in a sandboxed frame without scripts',
    code: 'frame',
    scripts: true,
    sandbox: 'allow-forms allow-popups allow-downloads',
  },
  {
    name: 'frame in a frame that lets nothing out',
    code: 'frame',
    scripts: true,
    sandbox: 'allow-scripts allow-forms allow-downloads',
  },
  { name: 'landing page', code: 'landing', scripts: true },
  { name: 'landing page, scripts off', code: 'landing', scripts: false },
  { name: 'landing page, corrected', code: 'landing', scripts: false, isCorrected: true },
  { name: 'pop-up', code: 'pop-up', scripts: true },
  { name: 'by rule', code: 'rule', scripts: true },
]

/** Where an own page is in the end, and what goes along. */
function endOf(kind: AnswerKind, pages: { own: string; other: string }, email: string): string | null {
  const values = new URLSearchParams({ from: 'us', email, 'first-name': 'Ada', wish: 'rings', consent: 'yes' })
  return {
    ours: null,
    gift: null,
    own: `${pages.own}/thanks`,
    'with values': `${pages.own}/thanks?${values}`,
    forwarding: `${pages.own}/thanks`,
    'forwarding elsewhere': `${pages.other}/thanks`,
    gone: `${pages.own}/gone`,
  }[kind]
}

class Visitor {
  readonly complaints: string[] = []
  private static number = 0
  readonly email: string
  private readonly number = (Visitor.number += 1)

  private constructor(
    readonly page: Page,
    private readonly context: BrowserContext,
  ) {
    this.email = `visitor${this.number}@post${this.number}.example`
    context.on('console', (message) => {
      // What a page that is not there answers is its own.
      // That a frame lets nobody out is known only by trying, which browsers log.
      const isExpected =
        /Failed to load resource|^Unsafe attempt to initiate navigation|^Blocked (?:opening|script execution)/
      if (message.type() === 'error' && !isExpected.test(message.text())) this.complaints.push(message.text())
    })
  }

  static async of(browser: Browser, scripts = true): Promise<Visitor> {
    const context = await browser.newContext({
      javaScriptEnabled: scripts,
      acceptDownloads: true,
    })
    return new Visitor(await context.newPage(), context)
  }

  async fill(frame: Frame | Page, email = this.email): Promise<void> {
    await frame.locator('form.askbox input[type=email]').fill(email)
    await frame.locator('form.askbox [name=first-name]').fill('Ada')
    await frame.locator('form.askbox [name=wish]').fill('rings')
    await frame.locator('form.askbox [name=consent]').check()
  }

  press(frame: Frame | Page): Promise<void> {
    return frame.locator('.askbox-button[type=submit]').click()
  }

  /** The frame that the form stands in. */
  async frameWithForm(): Promise<Frame> {
    let found!: Frame
    await expect(async () => {
      const frames = await Promise.all(
        this.page.frames().map(async (frame) => ((await frame.locator('form.askbox').count()) > 0 ? frame : null)),
      )
      found = frames.find((frame) => frame !== null)!
      expect(found).toBeTruthy()
    }).toPass()
    return found
  }

  /** Arrives at a page, by itself or by the link that says where to; resolves with the page that it is in the end. */
  async arrivesAt(address: string, isInFrame: boolean): Promise<'at once' | 'by a link' | 'in the frame'> {
    const bare = (url: string) => url.split('#')[0]
    let how: 'at once' | 'by a link' | 'in the frame' = 'at once'
    await expect(async () => {
      const pages = this.context.pages()
      if (pages.some((page) => bare(page.url()) === address)) how = this.pressedLink ? 'by a link' : 'at once'
      else if (isInFrame && this.page.frames().some((frame) => bare(frame.url()) === address)) how = 'in the frame'
      else {
        if (isInFrame && !this.pressedLink) await this.pressesLink()
        throw new Error(
          `${pages.flatMap((page) => page.frames().map((frame) => frame.url())).join(', ')}; ${this.complaints.join('; ')}`,
        )
      }
    }).toPass({ intervals: [50], timeout: PATIENCE_MS })
    return how
  }

  private async pressesLink(): Promise<void> {
    for (const frame of this.page.frames()) {
      const link = frame.locator('a.askbox-onward').first()
      if ((await link.count().catch(() => 0)) === 0) continue
      this.pressedLink = true
      await expect(link).toContainText('127.0.0.1')
      await link.click()
    }
  }
  private pressedLink = false

  /** Reads words, in whichever frame. */
  async reads(words: string): Promise<void> {
    await expect(async () => {
      const counts = this.page.frames().map((frame) => frame.getByText(words).count())
      expect(Math.max(...(await Promise.all(counts.map((count) => count.catch(() => 0)))))).toBe(1)
    }).toPass({ intervals: [50], timeout: PATIENCE_MS })
  }

  async findsButton(name: string): Promise<Locator> {
    let found: Locator | null = null
    await expect(async () => {
      for (const frame of this.page.frames()) {
        const button = frame.getByRole('button', { name })
        if ((await button.count().catch(() => 0)) > 0) found = button
      }
      expect(found).not.toBeNull()
    }).toPass({ intervals: [50], timeout: PATIENCE_MS })
    return found!
  }

  async close(): Promise<void> {
    await this.context.close()
  }
}

interface PressParts {
  ground: PressGround
  site: MadeSite
  box: RunningBox
  joining: Joining
  kind: AnswerKind
}

/** Opens the page that a form stands on by a way in. */
async function opensWay({ page }: Visitor, way: Way, { ground, site, box, joining, kind }: PressParts): Promise<void> {
  if (way.code === 'landing') {
    await page.goto(`${box.workshop}/page/${ground.spotOf(joining, kind, 'page')}`)
    return
  }
  const path = `/${way.name.replaceAll(/\W+/g, '-')}-${ground.spotOf(joining, kind)}`
  const address = site.put(path, ground.code(way.code, joining, kind))
  const around = `<iframe title="B" width="700" height="1400" sandbox="${way.sandbox}" src="${address}"></iframe>`
  await page.goto(way.sandbox === undefined ? address : site.put(`${path}-framed`, { body: around }))
}

/** Joins by a way in, up to the press. */
async function joinBy(visitor: Visitor, way: Way, parts: PressParts): Promise<void> {
  await opensWay(visitor, way, parts)
  if (way.isCorrected) {
    const first = await visitor.frameWithForm()
    await visitor.fill(first, 'no-address')
    await first
      .locator('form.askbox')
      .evaluate((form: HTMLFormElement) => (form.noValidate = true))
      .catch(() => {})
    await first.locator('.askbox-button[type=submit]').click()
    await visitor.page.getByRole('alert').first().waitFor()
  }
  const frame = await visitor.frameWithForm()
  await visitor.fill(frame)
  await visitor.press(frame)
}

for (const [at, way] of ways.entries())
  test(`pressed, by ${way.name}`, async ({ box, browser, site }) => {
    const pages = await startOwnPages()
    const ground = await pressGround(box, pages, site)
    const isInFrame = way.code === 'frame' || way.sandbox !== undefined
    for (const [of, kind] of answerKinds.entries()) {
      if (!isOfThisRun(at + of, ...PARTS)) continue
      await test.step(kind, async () => {
        const visitor = await Visitor.of(browser, way.scripts)
        await joinBy(visitor, way, { ground, site, box, joining: 'at once', kind })
        const end = endOf(kind, pages, visitor.email)
        if (end !== null)
          expect([kind, await visitor.arrivesAt(end, isInFrame)]).toEqual([
            kind,
            expect.stringMatching(isInFrame ? /./ : 'at once'),
          ])
        else {
          await visitor.reads('You are on the list')
          if (kind === 'gift') await takesGift(visitor)
        }
        expect(await ground.happenedTo(visitor.email)).toEqual(['joined'])
        await expect.poll(async () => (await ground.mailsTo(visitor.email)).length).toBe(1)
        expect([kind, visitor.complaints]).toEqual([kind, []])
        await visitor.close()
      })
    }
    pages.close()
  })

async function takesGift(visitor: Visitor): Promise<void> {
  for (const frame of visitor.page.frames()) {
    const link = frame.getByRole('link', { name: 'The winter star chart' })
    if ((await link.count()) === 0) continue
    const download = new Promise<string>((resolve) => {
      const take = (page: Page) => page.on('download', (file) => resolve(file.suggestedFilename()))
      take(visitor.page)
      visitor.page.context().on('page', take)
    })
    await link.click()
    expect(await download).toBe('winter-star-chart.pdf')
    return
  }
  throw new Error('There is no link to the gift.')
}

test('pressed, in the mail: confirming, leaving and coming back lead where the owner said, and again', async ({
  box,
  browser,
  site,
}) => {
  const pages = await startOwnPages()
  const ground = await pressGround(box, pages, site)
  for (const [of, kind] of answerKinds.entries()) {
    if (!isOfThisRun(of, 6, 2)) continue
    await test.step(kind, async () => {
      const visitor = await Visitor.of(browser)
      await joinBy(visitor, ways[0]!, { ground, site, box, joining: 'by mail', kind })
      const { page } = visitor
      await page.getByText('Look in your inbox').waitFor()
      const end = endOf(kind, pages, visitor.email)
      const arrives = async (words: string) => {
        if (end === null) await page.getByText(words).waitFor()
        else expect([kind, await visitor.arrivesAt(end, false)]).toEqual([kind, 'at once'])
      }
      // Once in the first tab, once more in a second that was open before.
      const confirm = await linkIn(ground, visitor.email, 0, '/confirm/')
      await opensMail(visitor, ground, 0, '/confirm/')
      const second = await page.context().newPage()
      await second.goto(confirm)
      await page.getByRole('button', { name: 'Yes, put me on the list' }).click()
      await arrives('You are on the list')
      expect(await ground.happenedTo(visitor.email)).toEqual(['confirm-first', 'confirmed'])
      if (kind === 'gift') await takesGift(visitor)
      await second.getByRole('button', { name: 'Yes, put me on the list' }).click()
      if (end === null) await second.getByText('You are on the list').waitFor()
      else await second.waitForURL(end)
      await second.close()
      await page.reload()
      expect(await ground.happenedTo(visitor.email)).toEqual(['confirm-first', 'confirmed'])

      await opensMail(visitor, ground, 1, '/leave/')
      await page.getByRole('button', { name: 'Leave the list' }).click()
      await arrives('You have left the list')
      expect((await ground.happenedTo(visitor.email)).at(-1)).toBe('left')
      const leave = await linkIn(ground, visitor.email, 1, '/leave/')
      await page.goto(`${leave}?back`)
      await page.getByRole('button', { name: 'Put me back on the list' }).click()
      await page.getByText('Welcome back').waitFor()
      // Neither loading it again nor going back takes anybody off.
      await page.reload()
      await page.goBack()
      await page.goForward()
      await page.getByText('Welcome back').waitFor()
      expect((await ground.happenedTo(visitor.email)).slice(2)).toEqual(['left', 'returned'])
      expect([kind, visitor.complaints]).toEqual([kind, []])
      await visitor.close()
    })
  }
  pages.close()
})

async function linkIn(ground: PressGround, email: string, at: number, path: string): Promise<string> {
  await expect.poll(async () => (await ground.mailsTo(email)).length).toBeGreaterThan(at)
  const html = (await ground.mailsTo(email))[at]!.html!
  return new RegExp(`href="([^"]*${path}[^"]*)"`).exec(html)![1]!.replaceAll('&amp;', '&')
}

/** Opens a mail as it came, and presses its link. */
async function opensMail(visitor: Visitor, ground: PressGround, at: number, path: string): Promise<void> {
  const link = await linkIn(ground, visitor.email, at, path)
  await visitor.page.goto('about:blank')
  await visitor.page.setContent((await ground.mailsTo(visitor.email))[at]!.html!)
  await visitor.page
    .locator(`a[href="${link}"]`)
    .first()
    .evaluate((one: HTMLAnchorElement) => one.removeAttribute('target'))
  await visitor.page.locator(`a[href="${link}"]`).first().click()
  await visitor.page.waitForURL(link)
}

test('pressed again: what is said is what holds, and nothing is done twice', async ({ box, browser, site }) => {
  const pages = await startOwnPages()
  const again = { ground: await pressGround(box, pages, site), site, box, browser, ownPage: `${pages.own}/thanks` }
  await test.step('by script, answered by an own page, Back, press: the form is as new', () => backAndPressed(again))
  await test.step('after leaving and after confirming, within the seconds of a repeat', () =>
    afterLeavingAndConfirming(again))
  await test.step('the answer loaded again, and the mail asked for again: nothing more happens than was pressed', () =>
    answerLoadedAgain(again))
  await test.step('an address that was not meant is put right where the form was sent without scripts', () =>
    addressPutRight(again))
  await test.step('paused, every code says the same; a link of somebody’s with made-up letters passes nothing on', () =>
    pausedAndMadeUpLinks(again))
  pages.close()
})

type Again = Omit<PressParts, 'joining' | 'kind'> & { browser: Browser; ownPage: string }
const named = (name: string) => ways.find((way) => way.name === name)!
const plain = named('plain code, scripts off')

async function backAndPressed(again: Again): Promise<void> {
  const { ground, browser, ownPage } = again
  // A pop-up asks nobody again who joined.
  for (const name of ['script', 'landing page']) {
    const visitor = await Visitor.of(browser)
    await joinBy(visitor, named(name), { ...again, joining: 'at once', kind: 'own' })
    await visitor.arrivesAt(ownPage, false)
    await visitor.page.goBack()
    const frame = await visitor.frameWithForm()
    await expect(frame.locator('form.askbox input[type=email]')).toHaveValue('')
    await expect(frame.locator('.askbox-button[type=submit]')).toBeEnabled()
    await visitor.press(frame)
    await frame.locator('.askbox-error').first().waitFor()
    expect(await ground.happenedTo(visitor.email)).toEqual(['joined'])
    await visitor.close()
  }
}

async function afterLeavingAndConfirming(again: Again): Promise<void> {
  const { ground, browser } = again
  const left = await Visitor.of(browser, false)
  await joinBy(left, plain, { ...again, joining: 'at once', kind: 'ours' })
  await left.page.getByText('You are on the list').waitFor()
  const leave = await linkIn(ground, left.email, 0, '/leave/')
  const other = await left.page.context().newPage()
  await other.goto(leave)
  await other.getByRole('button', { name: 'Leave the list' }).click()
  await other.getByText('You have left the list').waitFor()
  await left.page.goBack()
  await left.fill(left.page)
  await left.press(left.page)
  await left.page.getByText('You are on the list').waitFor()
  expect(await ground.happenedTo(left.email)).toEqual(['joined', 'left', 'joined'])
  await left.close()

  const confirmed = await Visitor.of(browser, false)
  await joinBy(confirmed, plain, { ...again, joining: 'by mail', kind: 'ours' })
  await confirmed.page.getByText('Look in your inbox').waitFor()
  const second = await confirmed.page.context().newPage()
  await second.goto(await linkIn(ground, confirmed.email, 0, '/confirm/'))
  await second.getByRole('button', { name: 'Yes, put me on the list' }).click()
  await second.getByText('You are on the list').waitFor()
  await confirmed.page.goBack()
  await confirmed.fill(confirmed.page)
  await confirmed.press(confirmed.page)
  await confirmed.page.getByText('You are already on the list').waitFor()
  await confirmed.close()
}

async function answerLoadedAgain(again: Again): Promise<void> {
  const { ground, browser } = again
  const visitor = await Visitor.of(browser, false)
  await joinBy(visitor, plain, { ...again, joining: 'by mail', kind: 'ours' })
  await visitor.page.getByRole('button', { name: 'Send the mail again' }).click()
  await visitor.page.getByText('The mail is on its way once more').waitFor()
  await visitor.page.reload()
  await visitor.page.getByText('The mail is on its way once more').waitFor()
  await expect.poll(async () => (await ground.mailsTo(visitor.email)).length).toBe(2)
  expect(await ground.happenedTo(visitor.email)).toEqual(['confirm-first'])
  await visitor.close()
}

async function addressPutRight(again: Again): Promise<void> {
  const { ground, browser } = again
  for (const name of [
    'plain code, scripts off',
    'frame, scripts off',
    'frame in a sandboxed frame without scripts',
    'landing page, scripts off',
  ]) {
    const way = named(name)
    const visitor = await Visitor.of(browser, way.scripts)
    const typed = `slip${ways.indexOf(way)}@gmial.com`
    Object.assign(visitor, { email: typed })
    await joinBy(visitor, way, { ...again, joining: 'at once', kind: 'ours' })
    const meant = typed.replace('gmial', 'gmail')
    const pressed = await visitor.findsButton(`Did you mean ${meant}?`)
    await pressed.click()
    await expect.poll(() => ground.happenedTo(typed)).toEqual(['joined', 'corrected'])
    await visitor.reads('You are on the list')
    expect([name, visitor.complaints]).toEqual([name, []])
    await visitor.close()
  }
}

async function pausedAndMadeUpLinks(again: Again): Promise<void> {
  const { ground, browser, box } = again
  const spot = ground.spotOf('at once', 'ours')
  for (const way of ['plain code, scripts off', 'script', 'frame', 'landing page'].map(named)) {
    const visitor = await Visitor.of(browser, way.scripts)
    const id = way.code === 'landing' ? ground.spotOf('at once', 'ours', 'page') : spot
    if (way.code === 'plain') await joinBy(visitor, way, { ...again, joining: 'at once', kind: 'own' })
    await changeSpot(box, id, { state: 'paused' })
    if (way.code === 'plain') await joinBy(visitor, way, { ...again, joining: 'at once', kind: 'ours' })
    else await opensWay(visitor, way, { ...again, joining: 'at once', kind: 'ours' })
    await visitor.reads('This form is closed for now')
    await changeSpot(box, id, { state: 'live' })
    await visitor.close()
  }
  const visitor = await Visitor.of(browser)
  await joinBy(visitor, named('plain code'), { ...again, joining: 'by mail', kind: 'with values' })
  const confirm = await linkIn(ground, visitor.email, 0, '/confirm/')
  await visitor.page.goto(confirm.replace(/.{22}$/, 'x'.repeat(22)))
  await visitor.page.getByText('This link leads nowhere').waitFor()
  await visitor.close()
}
