import type { BrowserContext, Frame, Page, Response } from 'playwright-core'
import type { VisitedPage } from '#core/rehearsal'
import { isBlank } from './drawing'
import { until } from './waiting'

const ACT_MS = 3_000
/** So long a step of ours may take to lead on to somebody else's page. */
const ONWARD_MS = 12_000
/** After-pages that lead on do it at once. */
const LEADS_ON_MS = 700
const MOST_HTML = 3 * 1024 * 1024

export interface Arrival {
  frame: Frame
  response: Response
}

/** Documents that came in a visit's windows, in their order, and what each was when it was there. */
export class Arrivals {
  private readonly all: Response[] = []
  /** How many documents each frame has shown, and how many it had when a response came. */
  private readonly shown = new WeakMap<Frame, number>()
  private readonly shownBefore = new WeakMap<Response, number>()
  /** Pages that were to come and did not, with what the browser says of it. */
  private readonly failures: { address: string; said: string }[] = []

  /** @param ours origin of the receiver, as visitors reach it */
  constructor(
    context: BrowserContext,
    private readonly ours: string,
    private readonly patience: number,
  ) {
    context.on('response', (response) => {
      const request = response.request()
      if (!request.isNavigationRequest() || (response.status() >= 300 && response.status() < 400)) return
      // A file is kept, and the page stays.
      if (/^\s*attachment\b/i.test(response.headers()['content-disposition'] ?? '')) return
      this.all.push(response)
      const frame = frameOf(response)
      if (frame !== null) this.shownBefore.set(response, this.shown.get(frame) ?? 0)
    })
    const watch = (page: Page) =>
      page.on('framenavigated', (frame) => this.shown.set(frame, (this.shown.get(frame) ?? 0) + 1))
    for (const page of context.pages()) watch(page)
    context.on('page', watch)
    context.on('requestfailed', (request) => {
      const said = request.failure()?.errorText ?? ''
      // What another page took the place of, or the browser kept as a file, was no failure.
      if (request.isNavigationRequest() && !/ERR_ABORTED/.test(said))
        this.failures.push({ address: request.url(), said })
    })
  }

  get count(): number {
    return this.all.length
  }

  /** Those after so many that are still there. */
  after(count: number): Arrival[] {
    return this.all.slice(count).flatMap((response) => {
      const frame = frameOf(response)
      return frame === null || frame.isDetached() ? [] : [{ frame, response }]
    })
  }

  /** The page that came, and where it led on to: a step of ours to the page that its owner named, any other by itself. */
  async read({ frame, response }: Arrival): Promise<VisitedPage> {
    const [status, address] = [response.status(), response.url()]
    // A response is told of before its document replaces the one that was there.
    await until(async () => this.isCommitted(frame, response) || null, ACT_MS)
    await frame.waitForLoadState('domcontentloaded', { timeout: ACT_MS }).catch(() => {})
    const html = (await frame.content().catch(() => '')).slice(0, MOST_HTML)
    const page = { status, address, html, ledTo: null }
    return address.startsWith(this.ours) ? this.onward({ frame, response }, page) : this.settled(frame, page)
  }

  /** Whether a frame shows the document that came, or the browser's own page in place of one that it refuses. */
  private isCommitted(frame: Frame, response: Response): boolean {
    const before = this.shownBefore.get(response)
    if (before !== undefined && (this.shown.get(frame) ?? 0) <= before) return false
    const current = frame.url()
    return current.startsWith('chrome-error:') || current.split('#')[0] === response.url().split('#')[0]
  }

  /** A step of ours that goes on by itself is none that anybody reads: what comes of it is. */
  private async onward(arrival: Arrival, page: VisitedPage): Promise<VisitedPage> {
    const { frame } = arrival
    const at = this.all.indexOf(arrival.response)
    const next = () => this.after(at + 1).find((one) => one.frame === frame || one.frame.parentFrame() === null)
    // By then it may be gone, and what was read is of the next.
    const leadsOn = next() !== undefined || /<meta http-equiv="refresh"/i.test(page.html)
    if (!leadsOn) return page
    const failures = this.failures.length
    const failed = () => this.failures.slice(failures).find(({ address }) => !address.startsWith(this.ours))
    const came = await until(async () => next() ?? failed() ?? null, ONWARD_MS * this.patience)
    if (came === null) return { ...page, isHeldBack: true }
    return 'response' in came ? this.read(came) : { status: 0, address: came.address, html: '', ledTo: null }
  }

  private async settled(frame: Frame, page: VisitedPage): Promise<VisitedPage> {
    const window: Page = frame.page()
    await window.waitForTimeout(LEADS_ON_MS)
    const now = frame.isDetached() ? page.address : frame.url()
    if (now.split('#')[0] !== page.address.split('#')[0]) return { ...page, ledTo: now }
    const session = await window.context().newCDPSession(window)
    const isShown = async () => ((await isBlank(session).catch(() => false)) ? null : true)
    const shown = await until(isShown, ACT_MS * this.patience)
    // What its scripts made of it meanwhile.
    const late = (await frame.content().catch(() => page.html)).slice(0, MOST_HTML)
    return { ...page, html: late, isBlank: shown === null }
  }
}

/** Null for a frame that is gone, and for a window that is only just opening: asked again, that one has its frame. */
function frameOf(response: Response): Frame | null {
  try {
    return response.frame()
  } catch {
    return null
  }
}
