import type { Browser, BrowserContext, Frame, Page } from '@playwright/test'
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
test.describe.configure({ timeout: 600_000 })

/** Nothing waits this long; a machine busy with other work may. */
const PATIENCE_MS = Number(process.env.ASKBOX_PATIENCE ?? 60_000)
/** Of all pairs, a run tries a share by its seed. */
const PARTS = process.env.ASKBOX_ALL ? 1 : 6

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
      const isExpected = /Failed to load resource|^Unsafe attempt to initiate navigation|^Blocked opening/
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

  async close(): Promise<void> {
    await this.context.close()
  }
}

/** Joins by a way in, up to the press. */
async function joinBy(
  visitor: Visitor,
  way: Way,
  {
    ground,
    site,
    box,
    joining,
    kind,
  }: { ground: PressGround; site: MadeSite; box: RunningBox; joining: Joining; kind: AnswerKind },
): Promise<void> {
  if (way.code === 'landing') await visitor.page.goto(`${box.workshop}/page/${ground.spotOf(joining, kind, 'page')}`)
  else {
    const path = `/${way.name.replaceAll(/\W+/g, '-')}-${ground.spotOf(joining, kind)}`
    const code = ground.code(way.code, joining, kind)
    const address = site.put(path, code)
    const around = `<iframe title="B" width="700" height="1400" sandbox="${way.sandbox}" src="${address}"></iframe>`
    await visitor.page.goto(way.sandbox === undefined ? address : site.put(`${path}-framed`, { body: around }))
  }
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
      if (!isOfThisRun(at + of, PARTS)) continue
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
          await expect
            .poll(async () => {
              const counts = visitor.page.frames().map((frame) => frame.getByText('You are on the list').count())
              return Math.max(...(await Promise.all(counts.map((count) => count.catch(() => 0)))))
            })
            .toBe(1)
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
