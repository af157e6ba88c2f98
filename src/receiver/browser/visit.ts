import type { Browser, BrowserContext, ElementHandle, Frame, Locator, Page, Response } from 'playwright-core'
import { type Fill, type Obstacle, type Visited, type VisitedPage, VISITS_ZONE, type VisitWish } from '#core/rehearsal'
import { afterPress, closersOver, factsOf, inPlaceOf, openerOf, sightOf, watchSubmit } from './in-page'

/** CSS pixels: a common window and a common phone. */
const SIZES = { desk: { width: 1280, height: 800 }, phone: { width: 360, height: 780 } }
const LOAD_MS = 20_000
/** What a site loads for itself is not waited for longer. */
const SETTLED_MS = 3_000
/** A form that scripts make comes later than the page. */
const FORM_MS = 5_000
/** A pop-up that must not come is waited for so long. */
const ABSENT_MS = 1_200
const ACT_MS = 3_000
const ANSWER_MS = 12_000
/** Where nothing was sent until then, nothing will be. */
const NOTHING_SENT_MS = 3_000
/** After-pages that lead on do it at once. */
const LEADS_ON_MS = 700
/** A finger stays down for a moment. */
const PRESS_MS = 60
const PICTURE_MS = 1_000
const LOOK_EVERY_MS = 25
const MOST_HTML = 3 * 1024 * 1024
/** Longer texts come at once, as from the clipboard. */
const MOST_TYPED = 60

/** The page itself did not come. */
export class NotOpened extends Error {}

/**
 * Opens a page in a browser with an empty profile and uses its form as a hand would: scrolls to it, opens what it is behind,
 * types, ticks, presses, and reads what comes.
 *
 * @param proxy port of the guarded proxy, by which everything goes
 * @throws NotOpened
 */
export async function visit(browser: Browser, proxy: number, wish: VisitWish): Promise<Visited> {
  const { width, height } = SIZES[wish.size]
  const context = await browser.newContext({
    viewport: { width, height },
    screen: { width, height },
    isMobile: wish.size === 'phone',
    hasTouch: wish.size === 'phone',
    javaScriptEnabled: wish.hasScripts,
    userAgent: await agentOf(browser),
    timezoneId: VISITS_ZONE,
    acceptDownloads: false,
    serviceWorkers: 'block',
    proxy: { server: `http://127.0.0.1:${proxy}`, bypass: '<-loopback>' },
  })
  context.setDefaultTimeout(ACT_MS)
  try {
    return await new Hand(context, await context.newPage(), wish).go()
  } finally {
    // One that hangs is not waited for: it ends with its browser.
    const closed = context.close().catch(() => {})
    await Promise.race([closed, new Promise((resolve) => setTimeout(resolve, 2_000).unref())])
  }
}

/** A site may show other pages to what says that it has no window. */
const agents = new WeakMap<Browser, Promise<string>>()
function agentOf(browser: Browser): Promise<string> {
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

interface Found {
  frame: Frame
  form: Locator
}

class Hand {
  private readonly remarks: string[] = []
  private readonly complaints: string[] = []
  private readonly arrivals: { frame: Frame; response: Response }[] = []
  private joins: { failed: string | null }[] = []
  private opened: Page | null = null
  private status = 0
  private picture: string | null = null
  /** The form by itself: a locator would wait for one that has made room for the answer. */
  private held: ElementHandle<Element> | null = null
  /** Where the form is looked for and found. */
  private within: Frame | Page

  constructor(
    context: BrowserContext,
    private page: Page,
    private readonly wish: VisitWish,
  ) {
    this.within = page
    context.on('response', (response) => {
      const request = response.request()
      if (!request.isNavigationRequest() || (response.status() >= 300 && response.status() < 400)) return
      try {
        this.arrivals.push({ frame: response.frame(), response })
      } catch {
        // Of a frame that is gone.
      }
    })
    context.on('request', (request) => {
      if (request.method() === 'POST' && request.url() === wish.action) {
        const join = { failed: null as string | null }
        this.joins.push(join)
        void request.response().then(
          () => (join.failed = request.failure()?.errorText ?? null),
          () => (join.failed = request.failure()?.errorText ?? 'no answer'),
        )
      }
    })
    context.on('page', (page) => {
      if (page !== this.page) this.opened = page
    })
    context.on('console', (message) => {
      if (message.type() === 'error') this.complain(message.text())
    })
    context.on('weberror', (error) => this.complain(error.error().message))
    // A question of the page's ("Leave?") is answered with yes, as somebody who wants on would.
    context.on('dialog', (dialog) => {
      this.remark(`The page asked: “${dialog.message().slice(0, 200)}”.`)
      void dialog.accept().catch(() => {})
    })
  }

  private complain(text: string): void {
    if (this.complaints.length < 10) this.complaints.push(text.slice(0, 300))
  }

  private remark(text: string): void {
    if (!this.remarks.includes(text)) this.remarks.push(text)
  }

  private seen(more: Partial<Visited>): Visited {
    return {
      isThere: false,
      width: 0,
      sticksOut: false,
      obstacle: null,
      answer: null,
      inPlace: null,
      html: null,
      remarks: this.remarks,
      complaints: this.complaints,
      status: this.status,
      picture: this.picture,
      ...more,
    }
  }

  async go(): Promise<Visited> {
    const { fills, presses } = this.wish
    await this.open()
    const found = await this.find()
    if (found === null) return this.seen({ html: (await this.page.content()).slice(0, MOST_HTML) })
    const { form } = found
    this.within = found.frame
    let facts = { width: 0, sticksOut: false }
    const stopped = (obstacle: Obstacle): Visited => this.seen({ isThere: true, ...facts, obstacle })
    const hidden = await this.frameSeen(found)
    if (hidden !== null) return stopped(hidden)
    facts = await form.evaluate(factsOf)
    if (fills === null) {
      const sight = await this.sight(form)
      return sight === null ? this.seen({ isThere: true, ...facts }) : stopped(sight)
    }
    for (const fill of fills) {
      const obstacle = await this.fill(form, fill)
      if (obstacle !== null) return stopped(obstacle)
    }
    facts = await form.evaluate(factsOf)
    const trap = form.locator(`[name="${this.wish.trap}"]`).first()
    if ((await trap.count()) > 0 && (await trap.evaluate(sightOf)).isSeen)
      return stopped({ code: 'trap-visible', detail: this.wish.trap, markup: await markupOf(trap) })
    await this.turnTo(form, null)
    if (this.wish.withPicture === true) await this.takePicture()
    const button = await this.buttonIn(form)
    if ('code' in button) return stopped(button)
    if (presses === 0) return this.seen({ isThere: true, ...facts })
    await form.evaluate(watchSubmit)
    this.held = await form.elementHandle()
    const markup = await markupOf(form)
    const before = this.arrivals.length
    try {
      if (presses === 2) await button.dblclick({ delay: PRESS_MS })
      else await button.click({ delay: PRESS_MS })
    } catch (error) {
      return stopped((await this.sight(button)) ?? trouble(error, button.toString()))
    }
    return this.seen({ isThere: true, ...facts, ...(await this.outcome(found, button, before, markup)) })
  }

  /** For whoever watches; a page that does not hold still has none. */
  private async takePicture(): Promise<void> {
    const taken = await this.page
      .screenshot({ type: 'jpeg', quality: 50, scale: 'css', timeout: PICTURE_MS })
      .catch(() => null)
    this.picture = taken?.toString('base64') ?? null
  }

  private async open(): Promise<void> {
    const { address, isPopUp } = this.wish
    try {
      // The moment that a pop-up's rules name is not waited for.
      const response = await this.page.goto(isPopUp ? `${address.split('#')[0]}#askbox-rehearsal` : address, {
        waitUntil: 'domcontentloaded',
        timeout: LOAD_MS,
      })
      this.status = response?.status() ?? 0
    } catch (error) {
      throw new NotOpened(shortly(error))
    }
    await this.page.waitForLoadState('load', { timeout: SETTLED_MS }).catch(() => {})
  }

  /** Our own; else a form of the page around our fields, whose own tag browsers then leave out. */
  private async formsIn(frame: Frame): Promise<Locator> {
    const action = this.wish.action.replaceAll('"', '')
    const own = frame.locator(`form[action="${action}"]`)
    // Not by a selector, which would look into the trees of scripts as well.
    return (await own.count()) > 0 ? own : frame.locator(`xpath=//form[.//*[@formaction="${action}"]]`)
  }

  /** The form, wherever on the page; behind a link of ours, on the page that it leads to. */
  private async find(): Promise<Found | null> {
    const { isPopUp, fills } = this.wish
    const found = await until(
      () => this.look(),
      isPopUp && fills === null ? ABSENT_MS : FORM_MS,
      async () => {
        // Without a place for a script to fill, and without a frame that may still load, there is only the link.
        const isLink = (await this.page.locator(this.links()).count()) > 0
        return isLink && (!this.wish.hasScripts || (await this.page.locator('script[src*="askbox.js"]').count()) === 0)
      },
    )
    if (found !== null || isPopUp) return found
    const link = this.page.locator(this.links()).first()
    if ((await link.count()) === 0) return null
    if ((await this.sight(link)) !== null) return null
    await link.click().catch(() => {})
    const landed = await until(async () => {
      if (this.opened !== null) this.page = this.opened
      return this.look()
    }, FORM_MS)
    if (landed !== null) this.remark('Through its link.')
    return landed
  }

  private links(): string {
    return this.wish.pages.map((page) => `a[href^="${page.replaceAll('"', '')}"]`).join(', ')
  }

  /** Of several, the one that can be seen. */
  private async look(): Promise<Found | null> {
    let hidden: Found | null = null
    for (const frame of this.page.frames()) {
      try {
        const all = await this.formsIn(frame)
        const count = await all.count()
        for (let at = 0; at < count; at += 1) {
          const form = all.nth(at)
          if (await form.isVisible()) return { frame, form }
          hidden ??= { frame, form }
        }
      } catch {
        // A frame that is just going.
      }
    }
    // A form that scripts just make appears in a moment; what stays out of sight is hidden.
    if (hidden !== null && this.hiddenSince === 0) this.hiddenSince = performance.now()
    return hidden !== null && performance.now() - this.hiddenSince > HIDDEN_MS ? hidden : null
  }
  private hiddenSince = 0

  /** Frames around it, from the outermost. */
  private async frameSeen({ frame }: Found): Promise<Obstacle | null> {
    const around: Frame[] = []
    for (let at: Frame | null = frame; at !== null && at.parentFrame() !== null; at = at.parentFrame())
      around.unshift(at)
    for (const one of around) {
      const element = await one.frameElement()
      const sight = await element.evaluate(sightOf)
      if (!sight.isSeen) return { code: sight.how || 'hidden', detail: sight.by, markup: sight.markup } as Obstacle
    }
    return null
  }

  /** What keeps an element from being seen and pressed, after what it is behind was opened or closed. */
  private async sight(target: Locator): Promise<Obstacle | null> {
    for (let tries = 0; ; tries += 1) {
      const sight = await target.evaluate(sightOf)
      if (sight.isSeen) return null
      const isLast = tries === 3
      if (!isLast && sight.how === 'hidden' && (await this.openUp(target))) continue
      if (!isLast && sight.how === 'covered' && (await this.uncover(target))) continue
      // Something that moves, or comes with a fade, has a moment.
      if (tries === 0) {
        await this.page.waitForTimeout(250)
        continue
      }
      return { code: sight.how === 'covered' ? 'covered' : 'hidden', detail: sight.by, markup: sight.markup }
    }
  }

  private async openUp(target: Locator): Promise<boolean> {
    const selector = await target.evaluate(openerOf)
    if (selector === null) return false
    const opener = this.within.locator(selector).first()
    try {
      await opener.click({ timeout: 1_000 })
      this.remark('The form is behind a press: what it stands in was opened first.')
      await opener.evaluate((one) => one.removeAttribute('data-askbox-opener'))
      await this.page.waitForTimeout(150)
      return true
    } catch {
      return false
    }
  }

  private async uncover(target: Locator): Promise<boolean> {
    const selectors = await target.evaluate(closersOver)
    if (selectors.length === 0) return false
    await this.page.keyboard.press('Escape')
    for (const selector of [null, ...selectors]) {
      if (selector !== null)
        await this.within
          .locator(selector)
          .first()
          .click({ timeout: 500 })
          .catch(() => {})
      await this.page.waitForTimeout(100)
      if (!(await target.evaluate(sightOf)).isSeen) continue
      this.remark('Something lay over the form, and was closed first.')
      return true
    }
    return false
  }

  private async fill(form: Locator, { name, value }: Fill): Promise<Obstacle | null> {
    const named = form.locator(`[name="${name.replaceAll('"', '')}"]`)
    if ((await named.count()) === 0) return { code: 'field-missing', detail: name, markup: '' }
    const first = named.first()
    const { type, isLocked } = await first.evaluate((one) => {
      const control = one as HTMLInputElement
      return {
        type: control.localName === 'input' ? control.type : control.localName,
        isLocked: control.matches(':disabled')
          ? 'is switched off'
          : control.readOnly
            ? 'can be read and not written in'
            : '',
      }
    })
    const locked = async (what: string): Promise<Obstacle> => ({
      code: 'field-locked',
      detail: `“${name}” ${what}`,
      markup: await markupOf(first),
    })
    if (type === 'hidden') return null
    if (isLocked !== '') return locked(isLocked)
    await this.turnTo(form, first)
    try {
      if (type === 'radio' || type === 'checkbox') {
        const box =
          value === null ? first : form.locator(`[name="${name}"][value="${value.replaceAll('"', '')}"]`).first()
        return await this.tick(form, box, name)
      }
      const sight = await this.sight(first)
      if (sight !== null) return sight
      if (type === 'select') {
        await first.selectOption(value)
        return null
      }
      if (type === 'date') {
        await first.fill(value ?? '')
        return null
      }
      await first.click()
      if ((await first.inputValue()) !== '') await first.fill('')
      const text = value ?? ''
      if (text.length > MOST_TYPED || /[^\x20-\x7e\n]/.test(text)) await this.page.keyboard.insertText(text)
      else await first.pressSequentially(text)
      const took = await first.inputValue()
      const isSame = (one: string) => one.trim().replaceAll('\r\n', '\n')
      return isSame(took) === isSame(text)
        ? null
        : await locked(`took “${took.slice(0, 80)}” of “${text.slice(0, 80)}”`)
    } catch (error) {
      return (await this.sight(first).catch(() => null)) ?? trouble(error, name)
    }
  }

  private async tick(form: Locator, box: Locator, name: string): Promise<Obstacle | null> {
    if (await box.isChecked()) return null
    const id = await box.getAttribute('id')
    const label = id === null ? null : form.locator(`label[for="${id}"]`).first()
    const around = form.locator('label', { has: box }).first()
    let problem: Obstacle | null = null
    // Its words are pressed as often as the box itself.
    for (const target of [box, label, around]) {
      if (target === null || (await target.count()) === 0) continue
      problem = await this.sight(target)
      if (problem !== null) continue
      await target.click({ timeout: ACT_MS })
      if (await box.isChecked()) return null
    }
    return problem ?? { code: 'field-locked', detail: `“${name}” cannot be ticked`, markup: await markupOf(box) }
  }

  /** Turns on to the step that something stands in, or to the last. */
  private async turnTo(form: Locator, control: Locator | null): Promise<void> {
    const steps = form.locator('.askbox-step')
    const count = await steps.count()
    for (let turns = 0; turns < count; turns += 1) {
      const open = await steps.evaluateAll((all) => all.findIndex((one) => !(one as HTMLElement).hidden))
      const wanted =
        control === null
          ? count - 1
          : await control.evaluate((one) => {
              const all = [...(one.closest('form')?.querySelectorAll('.askbox-step') ?? [])]
              return all.indexOf(one.closest('.askbox-step')!)
            })
      if (wanted < 0 || open < 0 || open >= wanted) return
      const next = steps.nth(open).locator('.askbox-turns button').last()
      if ((await next.count()) === 0) return
      await next.click().catch(() => {})
    }
  }

  private async buttonIn(form: Locator): Promise<Locator | Obstacle> {
    const action = this.wish.action.replaceAll('"', '')
    const submit =
      'button:not([type]), button[type="submit" i], input[type="submit" i], input[type="image" i], button[type=""]'
    const ours = form.locator(`[formaction="${action}"]`)
    // Ours, the form's own, or whatever looks like a button.
    for (const [all, isSubmit] of [
      [ours, true],
      [form.locator('.askbox-button:not(.askbox-turns *)').locator(`visible=true`), true],
      [form.locator(submit), true],
      [form.locator('button, input[type="button" i], [role="button"]'), false],
    ] as const) {
      const button = all.last()
      if ((await button.count()) === 0) continue
      if (await button.evaluate((one) => one.matches(':disabled')))
        return { code: 'button-disabled', detail: '', markup: await markupOf(button) }
      const sight = await this.sight(button)
      if (sight !== null) return sight
      if (!isSubmit) this.remark('What looks like its button is none that sends.')
      return button
    }
    return { code: 'no-button', detail: '', markup: await markupOf(form) }
  }

  private async outcome(
    { frame, form }: Found,
    button: Locator,
    before: number,
    markup: string,
  ): Promise<Pick<Visited, 'obstacle' | 'answer' | 'inPlace'>> {
    const none = { obstacle: null, answer: null, inPlace: null }
    const begun = performance.now()
    const { held } = this
    while (performance.now() - begun < ANSWER_MS) {
      // Frames of the site's own that load something meanwhile are none of ours.
      const arrived = this.arrivals
        .slice(before)
        .findLast(
          (one) =>
            !one.frame.isDetached() &&
            (one.frame === frame || one.frame.parentFrame() === null || this.isAnswer(one.response)),
        )
      if (arrived !== undefined) {
        const answer = await this.read(arrived.frame, arrived.response)
        const isElsewhere = arrived.frame !== frame && arrived.frame.parentFrame() !== null
        const unseen = isElsewhere ? await this.frameSeen({ frame: arrived.frame, form }) : null
        if (unseen !== null)
          return { ...none, answer, obstacle: { code: 'answer-unseen', detail: unseen.detail, markup: unseen.markup } }
        return this.joins.length > 0
          ? { ...none, answer }
          : { ...none, obstacle: { code: 'sent-elsewhere', detail: answer.address, markup } }
      }
      const place = await held?.evaluate(inPlaceOf).catch(() => null)
      if (place && place.kind !== 'none') return { ...none, inPlace: place }
      if (this.joins.length === 0 && performance.now() - begun > NOTHING_SENT_MS)
        return { ...none, obstacle: await this.whyNotSent(this.held, button, markup) }
      const failed = this.joins.at(-1)?.failed
      if (failed && performance.now() - begun > NOTHING_SENT_MS)
        return { ...none, obstacle: { code: 'send-blocked', detail: failed, markup } }
      await this.page.waitForTimeout(LOOK_EVERY_MS)
    }
    return { ...none, obstacle: { code: 'answer-missing', detail: this.complaints.at(-1) ?? '', markup } }
  }

  /** Whether a page came of what the form sent, over whatever redirects. */
  private isAnswer(response: Response): boolean {
    let first = response.request()
    for (let before = first.redirectedFrom(); before !== null; before = before.redirectedFrom()) first = before
    return first.method() === 'POST' && first.url() === this.wish.action
  }

  private async whyNotSent(form: ElementHandle<Element> | null, button: Locator, markup: string): Promise<Obstacle> {
    const policy = this.complaints.find((text) => /Content Security Policy/i.test(text))
    if (policy !== undefined) return { code: 'send-blocked', detail: policy, markup }
    const after = (await form?.evaluate((one) => one.isConnected).catch(() => false))
      ? await form?.evaluate(afterPress as (form: Element) => ReturnType<typeof afterPress>).catch(() => null)
      : null
    if (!after) return { code: 'submit-stopped', detail: 'the page took the form away', markup }
    if (after.invalid !== null)
      return {
        code: 'foreign-required',
        detail: `“${after.invalid.name}”: ${after.invalid.message}`,
        markup: after.invalid.markup,
      }
    if (after.isFired)
      return {
        code: 'submit-stopped',
        detail: after.isStopped ? 'a script of the page stops it' : 'nothing came of it',
        markup,
      }
    const sends = await button
      .evaluate((one) => ['submit', 'image'].includes((one as HTMLButtonElement).type))
      .catch(() => true)
    return sends
      ? { code: 'submit-stopped', detail: 'a press on the button does nothing', markup }
      : { code: 'no-button', detail: 'a press on what looks like it does nothing', markup: await markupOf(button) }
  }

  private async read(frame: Frame, response: Response): Promise<VisitedPage> {
    const [status, address] = [response.status(), response.url()]
    // A response is told of before its document replaces the one that the form was in.
    await until(async () => isCommitted(frame, address) || null, ACT_MS)
    await frame.waitForLoadState('domcontentloaded', { timeout: ACT_MS }).catch(() => {})
    const html = (await frame.content().catch(() => '')).slice(0, MOST_HTML)
    if (!address.startsWith(new URL(this.wish.action).origin)) {
      await this.page.waitForTimeout(LEADS_ON_MS)
      const now = frame.isDetached() ? address : frame.url()
      if (now.split('#')[0] !== address.split('#')[0]) return { status, address, html, ledTo: now }
    }
    return { status, address, html, ledTo: null }
  }
}

/** What is hidden so long after the page has come is hidden. */
const HIDDEN_MS = 800

function trouble(error: unknown, about: string): Obstacle {
  return { code: 'trouble', detail: `${about}: ${shortly(error)}`, markup: '' }
}

/** Whether a frame shows the document of this address, or the browser's own page in place of one that it refuses. */
function isCommitted(frame: Frame, address: string): boolean {
  const current = frame.url()
  return current.startsWith('chrome-error:') || current.split('#')[0] === address.split('#')[0]
}

/** The first line of what a browser says, without its own words for us. */
function shortly(error: unknown): string {
  const [line = ''] = (error instanceof Error ? error.message : String(error)).split('\n')
  return line.replace(/^(?:page|locator|frame)\.\w+: /, '').slice(0, 300)
}

async function markupOf(one: Locator): Promise<string> {
  return one.evaluate((element) => element.outerHTML.slice(0, 1_500))
}

/** What comes of looking again and again; null when the time is over, or when there is no use in waiting. */
async function until<T>(
  look: () => Promise<T | null>,
  ms: number,
  isHopeless: () => Promise<boolean> = async () => false,
): Promise<T | null> {
  for (const end = performance.now() + ms; ; await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS))) {
    const found = await look()
    if (found !== null || performance.now() > end || (await isHopeless())) return found
  }
}
