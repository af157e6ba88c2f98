import type { CDPSession, Frame, Locator, Page } from 'playwright-core'
import type { Viewer } from '#core/proof'
import type { Obstacle } from '#core/rehearsal'
import { drawnAt, type Unseen } from './drawing'
import {
  closersOver,
  frameIn,
  type Opener,
  openersOf,
  type SeenPart,
  pressedAt,
  type Sight,
  shownOf,
  veilOver,
} from './in-page'
import { byTab, reach, scrollBy, type Scrolling } from './moving'
import { markupOf, until } from './waiting'

const ACT_MS = 3_000
/** A finger stays down for a moment. */
const PRESS_MS = 60
/** What moves, fades in, or is behind a curtain that goes by itself, is waited for: by the quick and by the slow. */
const PATIENCE_MS = { quick: 4_000, slow: 12_000 }
/** So long it may come by itself. */
const BY_ITSELF_MS = 800
/** From so long on, it is told how late it came. */
const LATE_MS = 2_500
const MOST_OPENERS = 8
/** Presses on what turns slides on. */
const MOST_STEPS = 5
const OPENING_MS = 15_000
/** Folds within folds. */
const MOST_ROUNDS = 3
const OPENED_MS = 700

/** Where something is seen, and where one presses it. */
export interface Reachable {
  area: SeenPart
  x: number
  y: number
}

export interface PersonWishes {
  viewer: Viewer
  /** Words by which she knows what she looks for. */
  words: readonly string[]
  isSlow?: boolean
  /** Whether she need not look at pixels. */
  wasLookedAt?: boolean
  /** By how much longer than usual she waits. */
  patience?: number
}

/**
 * A visitor on a page: moves by wheel, finger and keys, sees what the screen shows, opens and closes what is in the way,
 * presses where she looks. What she looks for is told by who sends her.
 */
export class TypingPerson {
  /** What she had to do before. */
  readonly remarks: string[] = []
  openedAt = performance.now()
  /** The frame that she looks at. */
  within: Frame
  private session: CDPSession | null = null

  constructor(
    public page: Page,
    private readonly wishes: PersonWishes,
  ) {
    this.within = page.mainFrame()
  }

  /** Goes on in another page. */
  turnToPage(page: Page): void {
    this.page = page
    this.within = page.mainFrame()
    this.session = null
  }

  get isTouch(): boolean {
    return this.wishes.viewer.isTouch
  }

  get patience(): number {
    return this.wishes.patience ?? 1
  }

  async scrolling(): Promise<Scrolling> {
    this.session ??= await this.page.context().newCDPSession(this.page)
    return { page: this.page, session: this.session, isTouch: this.isTouch }
  }

  async rest(ms: number): Promise<void> {
    await this.page.waitForTimeout(ms)
  }

  remark(text: string): void {
    if (!this.remarks.includes(text)) this.remarks.push(text)
  }

  /**
   * Brings something into sight, after what it is behind was opened or closed, and looks at its own pixels: where it can be
   * pressed, or what keeps one from it.
   */
  async sight(
    target: Locator,
    { frame = this.within, isDrawn = true }: { frame?: Frame; isDrawn?: boolean } = {},
  ): Promise<Reachable | Obstacle> {
    const begun = performance.now()
    const patience = this.patience * (this.wishes.isSlow === true ? PATIENCE_MS.slow : PATIENCE_MS.quick)
    let hasTriedToOpen = false
    let hasTriedToUncover = false
    let wasHelped = false
    for (;;) {
      const one = await this.sightNow(target, frame, isDrawn)
      const waited = performance.now() - begun
      if ('area' in one) {
        const late = performance.now() - this.openedAt
        if (waited > LATE_MS && !wasHelped)
          this.remark(`It could be seen only ${(late / 1_000).toFixed(0)} seconds after the page was opened.`)
        return one
      }
      // What comes by itself in a moment is not looked for behind what can be pressed.
      if (one.code === 'hidden' && !hasTriedToOpen && waited > BY_ITSELF_MS) {
        hasTriedToOpen = true
        if ((wasHelped = await this.openFor(target))) continue
      }
      if (one.code === 'covered' && !hasTriedToUncover) {
        hasTriedToUncover = true
        if ((wasHelped = await this.uncover(target, frame))) continue
      }
      if (performance.now() - begun > patience) return this.byKeysAlone(target, one)
      await this.rest(250)
    }
  }

  /** Where it can be pressed as the page stands, without waiting or opening anything. */
  glance(target: Locator): Promise<Reachable | Obstacle> {
    return this.sightNow(target, this.within, true)
  }

  /** What cannot be moved to may be reached by the Tab key: that is told, and helps nobody with a mouse or a finger. */
  private async byKeysAlone(target: Locator, obstacle: Obstacle): Promise<Obstacle> {
    if (obstacle.code !== 'hidden' || this.isTouch || !(await target.evaluate(shownOf)).isSeen) return obstacle
    return (await byTab(this.page, target))
      ? { ...obstacle, detail: `${obstacle.detail}. Only the Tab key reaches it` }
      : obstacle
  }

  async pressAt({ x, y }: Pick<Reachable, 'x' | 'y'> & { area?: SeenPart }, presses: 1 | 2 = 1): Promise<void> {
    if (!this.isTouch) return this.page.mouse.click(x, y, { delay: PRESS_MS, clickCount: presses })
    for (let count = 1; count <= presses; count += 1) await this.page.touchscreen.tap(x, y)
  }

  /** Whether it is drawn well a moment later, where it stands by then. */
  async settled(target: Locator, before: Reachable): Promise<boolean> {
    await this.rest(400)
    const at = await reach(await this.scrolling(), target, this.within)
    return (await this.drawn(target, at.area ?? before.area)) === null
  }

  async isInSight(one: Locator): Promise<boolean> {
    if ((await one.count()) === 0 || !(await one.evaluate(shownOf)).isSeen) return false
    return 'area' in (await this.sightNow(one, this.within, true))
  }

  /** What of it the screen does not show; where no picture could be taken, nothing is said against it. */
  async drawn(target: Locator, area: SeenPart): Promise<Unseen | null> {
    if (this.wishes.wasLookedAt === true) return null
    return drawnAt((await this.scrolling()).session, target, area).catch(() => null)
  }

  async undrawn(target: Locator, unseen: Unseen): Promise<Obstacle> {
    const veil = await target.evaluate(veilOver)
    const why = veil === null ? '' : `: ${veil.by}`
    return {
      code: unseen === 'nothing' ? 'hidden' : 'faint',
      detail: `${UNSEEN[unseen]}${why}`,
      markup: veil?.markup ?? (await markupOf(target)),
    }
  }

  /** Frames around it, from the outermost. */
  async frameSeen(frame: Frame): Promise<Obstacle | null> {
    const around: Frame[] = []
    for (let at: Frame | null = frame; at !== null && at.parentFrame() !== null; at = at.parentFrame())
      around.unshift(at)
    for (const one of around) {
      const element = await one.frameElement()
      const parent = one.parentFrame()!
      let sight = await element.evaluate(shownOf as (element: Node) => Sight)
      if (!sight.isSeen && (await this.revealed(parent, () => element.evaluate(shownOf as (element: Node) => Sight))))
        sight = await element.evaluate(shownOf as (element: Node) => Sight)
      if (!sight.isSeen) return { code: sight.how || 'hidden', detail: sight.by, markup: sight.markup } as Obstacle
    }
    return null
  }

  /** The mouse about and out at the top, then down to the end of the page. */
  async lookAround<T>(look: () => Promise<T | null>): Promise<T | null> {
    const { width, height } = this.wishes.viewer
    if (!this.isTouch) {
      await this.page.mouse.move(width / 2, height / 2, { steps: 5 })
      await this.page.mouse.move(width / 2, 2, { steps: 5 })
    }
    const on = await this.scrolling()
    for (let turn = 0; turn < 15; turn += 1) {
      const found = await look()
      if (found !== null) {
        this.remark('It comes when one moves on the page.')
        return found
      }
      const before = await this.page.evaluate(() => scrollY)
      await scrollBy(on, { x: width / 2, y: height / 2, dx: 0, dy: height * 0.8, room: { x: width, y: height } })
      await this.rest(150)
      if ((await this.page.evaluate(() => scrollY)) === before) break
    }
    return until(look, 300)
  }

  /**
   * Presses what may open it, the likeliest first, until it is there; at most so many, for at most so long. What a press
   * brings is looked through as well: a fold may be in another.
   */
  async tryOpeners(target: Locator, isThere: () => Promise<boolean>): Promise<boolean> {
    const end = performance.now() + OPENING_MS
    for (let round = 0; round < MOST_ROUNDS; round += 1) {
      const wish = { words: this.wishes.words, most: MOST_OPENERS, isFirst: round === 0 }
      const openers = await target.evaluate(openersOf, wish).catch(() => [])
      let hasChanged = false
      for (const opener of openers) {
        const outcome = await this.tryOpener(opener, isThere, end)
        if (outcome === 'opened') return true
        if (outcome === 'late') return false
        hasChanged ||= outcome === 'changed'
      }
      if (!hasChanged) return false
    }
    return false
  }

  private async tryOpener(
    { selector, label, isStep }: Opener,
    isThere: () => Promise<boolean>,
    end: number,
  ): Promise<'opened' | 'changed' | 'same' | 'late'> {
    let outcome: 'changed' | 'same' = 'same'
    for (let steps = 0; steps < (isStep ? MOST_STEPS : 1); steps += 1) {
      if (performance.now() > end) return 'late'
      const before = await this.traces()
      const one = this.within.locator(selector).first()
      if (!(await this.tryPress(one))) break
      await one.evaluate((element) => element.setAttribute('data-askbox-pressed', '')).catch(() => {})
      if (await until(async () => ((await isThere()) ? true : null), OPENED_MS)) {
        this.remark(label === '' ? 'Something was pressed first, which has no name.' : `“${label}” was pressed first.`)
        return 'opened'
      }
      if ((await this.traces()) === before) break
      outcome = 'changed'
    }
    return outcome
  }

  private async sightNow(target: Locator, frame: Frame, isDrawn: boolean): Promise<Reachable | Obstacle> {
    const shown = await target.evaluate(shownOf)
    if (!shown.isSeen) return { code: 'hidden', detail: shown.by, markup: shown.markup }
    const at = await reach(await this.scrolling(), target, frame)
    if (at.area === null) return { code: 'hidden', detail: at.why, markup: at.markup }
    const offset = await this.offsetOf(frame)
    const within: SeenPart = {
      left: (at.area.left - offset.left) / offset.scale,
      top: (at.area.top - offset.top) / offset.scale,
      right: (at.area.right - offset.left) / offset.scale,
      bottom: (at.area.bottom - offset.top) / offset.scale,
    }
    const hit = await target.evaluate(pressedAt, within)
    if (!hit.isSeen) return { code: hit.how === 'covered' ? 'covered' : 'hidden', detail: hit.by, markup: hit.markup }
    const point = { x: offset.left + hit.x * offset.scale, y: offset.top + hit.y * offset.scale }
    const over = await this.coverOfFrames(frame, point)
    if (over !== null) return over
    const unseen = isDrawn ? await this.drawn(target, at.area) : null
    if (unseen !== null) return this.undrawn(target, unseen)
    return { area: at.area, ...point }
  }

  /** Where a frame's own window begins in the page's. */
  private async offsetOf(frame: Frame): Promise<{ left: number; top: number; scale: number }> {
    let offset = { left: 0, top: 0, scale: 1 }
    for (let at = frame; at.parentFrame() !== null; at = at.parentFrame()!) {
      const element = await at.frameElement()
      const round = await element.evaluate(frameIn as (element: Node) => ReturnType<typeof frameIn>)
      offset = {
        left: round.left + offset.left * round.scale,
        top: round.top + offset.top * round.scale,
        scale: offset.scale * round.scale,
      }
    }
    return offset
  }

  /** Something of a page around that lies over a frame where one would press. */
  private async coverOfFrames(frame: Frame, point: { x: number; y: number }): Promise<Obstacle | null> {
    if (frame.parentFrame() === null) return null
    const element = await this.outermostOf(frame).frameElement()
    const area = { left: point.x - 2, top: point.y - 2, right: point.x + 2, bottom: point.y + 2 }
    const hit = await element.evaluate(
      pressedAt as (element: Node, area: SeenPart) => ReturnType<typeof pressedAt>,
      area,
    )
    return hit.isSeen
      ? null
      : { code: hit.how === 'covered' ? 'covered' : 'hidden', detail: hit.by, markup: hit.markup }
  }

  private outermostOf(frame: Frame): Frame {
    let at = frame
    while (at.parentFrame()?.parentFrame()) at = at.parentFrame()!
    return at
  }

  private async openFor(target: Locator): Promise<boolean> {
    const isSeen = async () =>
      (await target.count()) > 0 && (await target.evaluate(shownOf)).isSeen && (await this.isReached(target))
    return this.tryOpeners(target, isSeen)
  }

  private async isReached(target: Locator): Promise<boolean> {
    return (await reach(await this.scrolling(), target, this.within)).area !== null
  }

  /** What a frame stands in is opened as what a form stands in. */
  private async revealed(frame: Frame, look: () => Promise<Sight>): Promise<boolean> {
    const { within } = this
    this.within = frame
    try {
      return await this.tryOpeners(frame.locator('html'), async () => (await look()).isSeen)
    } finally {
      this.within = within
    }
  }

  /** What a press changes of what the page is made of and says. */
  private async traces(): Promise<string> {
    const [markup, words] = await this.page
      .evaluate(() => [document.body.outerHTML, document.body.innerText] as const)
      .catch(() => ['', ''] as const)
    // But for our own marks.
    return `${markup.replaceAll(/ data-askbox-(?:opener|pressed|closer)="[^"]*"/g, '')}\n${words}`
  }

  /** @returns whether it was pressed; a page that it leads to is left again */
  private async tryPress(opener: Locator, frame = this.within): Promise<boolean> {
    try {
      if ((await opener.count()) === 0 || !(await opener.evaluate(shownOf)).isSeen) return false
      const at = await reach(await this.scrolling(), opener, frame)
      if (at.area === null) return false
      const address = this.page.url().split('#')[0]
      await this.pressAt({
        area: at.area,
        x: (at.area.left + at.area.right) / 2,
        y: (at.area.top + at.area.bottom) / 2,
      })
      await this.rest(120)
      if (this.page.url().split('#')[0] !== address) {
        await this.page.goBack({ timeout: ACT_MS }).catch(() => {})
        return false
      }
      return true
    } catch {
      return false
    }
  }

  /** Closes what lies over it, in its own window or in that of the page around. */
  private async uncover(target: Locator, frame: Frame): Promise<boolean> {
    const isFree = async () => {
      const one = await this.sightNow(target, frame, false)
      return 'area' in one || one.code !== 'covered'
    }
    await this.page.keyboard.press('Escape')
    await this.rest(100)
    let isClosed = await isFree()
    for (const { within, selector } of isClosed ? [] : await this.closersFor(target, frame)) {
      if (!(await this.tryPress(within.locator(selector).first(), within))) continue
      await this.rest(100)
      if ((isClosed = await isFree())) break
    }
    if (isClosed) this.remark('Something lay over the form, and was closed first.')
    return isClosed
  }

  private async closersFor(target: Locator, frame: Frame): Promise<{ within: Frame; selector: string }[]> {
    const here = (await target.evaluate(closersOver)).map((selector) => ({ within: frame, selector }))
    if (frame.parentFrame() === null) return here
    const element = await this.outermostOf(frame).frameElement()
    const around = await element.evaluate(closersOver as (element: Node) => string[])
    return [...around.map((selector) => ({ within: this.page.mainFrame(), selector })), ...here]
  }
}

const UNSEEN: Record<Unseen, string> = {
  nothing: 'The screen shows nothing of it, although the page’s styles do not hide it',
  faint: 'It can hardly be told from what is behind it',
  letters: 'Its letters cannot be read: they hardly differ from what is behind them',
  blurred: 'It is blurred',
}
