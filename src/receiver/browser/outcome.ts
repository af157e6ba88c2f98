import type { BrowserContext, ElementHandle, Frame, Locator, Page, Response } from 'playwright-core'
import type { Obstacle, Visited, VisitWish } from '#core/rehearsal'
import type { Arrivals } from './arrivals'
import type { FoundForm } from './finder'
import { afterPress, inPlaceOf, wordsShown } from './in-page'
import { FORBIDS, markupOf } from './waiting'

const ANSWER_MS = 12_000
/** Where nothing was sent until then, nothing will be. */
const NOTHING_SENT_MS = 3_000
const LOOK_EVERY_MS = 25

/** What the form was before it was sent. */
interface Before {
  held: ElementHandle<Element> | null
  markup: string
  /** Lines that could be read. */
  before: readonly string[]
}
/** A button that was pressed, and how what is on the page is looked at from then on. */
interface Pressed {
  page: Page
  found: FoundForm
  button: Locator
  before: Before
  frameSeen(found: FoundForm): Promise<Obstacle | null>
}
type Came = Pick<Visited, 'obstacle' | 'answer' | 'inPlace'>

/** Records a form's submission: requests, and the page that follows. */
export class SeenOutcome {
  private readonly joins: { failed: string | null }[] = []

  constructor(
    context: BrowserContext,
    private readonly wish: VisitWish,
    private readonly complaints: () => readonly string[],
    private readonly arrivals: Arrivals,
    private readonly patience: number,
  ) {
    context.on('request', (request) => {
      if (request.method() !== 'POST' || request.url() !== wish.action) return
      const join = { failed: null as string | null }
      this.joins.push(join)
      const ended = () => (join.failed = request.failure()?.errorText ?? null)
      void request.response().then(ended, () => (join.failed = request.failure()?.errorText ?? 'no answer'))
    })
  }

  /** From now on, pages are the answer. */
  begin() {
    const from = this.arrivals.count
    return {
      end: (pressed: Pressed) => this.wait(pressed, from),
    }
  }

  private async wait(
    { page, found: { frame, form }, button, before: { held, markup, before }, frameSeen }: Pressed,
    from: number,
  ): Promise<Came> {
    const none: Came = { obstacle: null, answer: null, inPlace: null }
    const begun = performance.now()
    while (performance.now() - begun < ANSWER_MS * this.patience) {
      // Frames of the site's own that load something meanwhile are none of ours.
      const arrived = this.arrivals
        .after(from)
        .findLast((one) => one.frame === frame || one.frame.parentFrame() === null || this.isAnswer(one.response))
      if (arrived !== undefined) {
        const answer = await this.arrivals.read(arrived)
        const isElsewhere = arrived.frame !== frame && arrived.frame.parentFrame() !== null
        const unseen = isElsewhere ? await frameSeen({ frame: arrived.frame, form }) : null
        if (unseen !== null)
          return { ...none, answer, obstacle: { code: 'answer-unseen', detail: unseen.detail, markup: unseen.markup } }
        return this.joins.length > 0
          ? { ...none, answer }
          : { ...none, obstacle: { code: 'sent-elsewhere', detail: answer.address, markup } }
      }
      const place = await held?.evaluate(inPlaceOf).catch(() => null)
      if (place && place.kind !== 'none') return { ...none, inPlace: place }
      if (this.joins.length === 0 && performance.now() - begun > NOTHING_SENT_MS * this.patience)
        return { ...none, obstacle: await this.whyNotSent(frame, held, button, { markup, before }) }
      const failed = this.joins.at(-1)?.failed ?? this.forbidden()
      if (failed && performance.now() - begun > NOTHING_SENT_MS * this.patience)
        return { ...none, obstacle: { code: 'send-blocked', detail: failed, markup } }
      await page.waitForTimeout(LOOK_EVERY_MS)
    }
    return { ...none, obstacle: { code: 'answer-missing', detail: this.complaints().at(-1) ?? '', markup } }
  }

  /** What the browser says against the press; null for nothing. */
  private forbidden(): string | null {
    return this.complaints().find((text) => FORBIDS.test(text)) ?? null
  }

  /** Whether a page came of what the form sent, over whatever redirects. */
  private isAnswer(response: Response): boolean {
    let first = response.request()
    for (let before = first.redirectedFrom(); before !== null; before = before.redirectedFrom()) first = before
    return first.method() === 'POST' && first.url() === this.wish.action
  }

  private async whyNotSent(
    frame: Frame,
    form: ElementHandle<Element> | null,
    button: Locator,
    { markup, before }: Pick<Before, 'markup' | 'before'>,
  ): Promise<Obstacle> {
    const stopped = (detail: string): Obstacle => ({ code: 'submit-stopped', detail, markup })
    const forbidden = this.forbidden()
    if (forbidden !== null) return { code: 'send-blocked', detail: forbidden, markup }
    // A theme's own check says something; one that answers in the receiver's place says thank you.
    const now = await frame.evaluate(wordsShown).catch(() => [])
    const said = now.find((line) => !before.includes(line))
    const saying = said === undefined ? '' : `, and the page says “${said.slice(0, 120)}”`
    const after = (await form?.evaluate((one) => one.isConnected).catch(() => false))
      ? await form?.evaluate(afterPress as (form: Element) => ReturnType<typeof afterPress>).catch(() => null)
      : null
    if (!after) return stopped(`the page took the form away${saying}`)
    if (after.invalid !== null)
      return {
        code: 'foreign-required',
        detail: `“${after.invalid.name}”: ${after.invalid.message}`,
        markup: after.invalid.markup,
      }
    if (after.isFired)
      return stopped(`${after.isStopped ? 'a script of the page stops it' : 'nothing came of it'}${saying}`)
    const sends = await button
      .evaluate((one) => ['submit', 'image'].includes((one as HTMLButtonElement).type))
      .catch(() => true)
    return sends
      ? stopped(`a press on the button does nothing${saying}`)
      : { code: 'no-button', detail: 'a press on what looks like it does nothing', markup: await markupOf(button) }
  }
}
