import type { BrowserContext, ElementHandle, Locator, Page } from 'playwright-core'
import { isSamePage, viewerOf } from '#core/proof'
import type { Obstacle, PressSeen, Visited, VisitWish } from '#core/rehearsal'
import { Arrivals } from './arrivals'
import { isBlank } from './drawing'
import { Filling } from './filling'
import { Finder, type FoundForm } from './finder'
import { ASKED, factsOf, watchSubmit, wordsShown } from './in-page'
import { SeenOutcome } from './outcome'
import { TypingPerson } from './person'
import { picturedAt } from './pictured'
import { Presses } from './presses'
import { hiddenWidths } from './sweep'
import { markupOf, NotOpened, OF_LOOKING, shortly, trouble } from './waiting'

const LOAD_MS = 20_000
/** What a site loads for itself is not waited for longer. */
const SETTLED_MS = 3_000
const MOST_HTML = 3 * 1024 * 1024
/** A slow visit: looking, typing, and the twenty seconds that people take. */
const SLOW = { lookMs: 1_500, keyMs: 90, wholeMs: 20_000 }
/** So long a page is waited for that shows nothing. */
const BLANK = { saidFromMs: 10_000, waitedMs: 12_000, lookEveryMs: 250 }

/** One visitor of a page with a spot's form: finds it, fills it in, sends it, reads the answer. */
export class Hand {
  private readonly person: TypingPerson
  private readonly finder: Finder
  private readonly filling: Filling
  private readonly outcome: SeenOutcome
  private readonly presses: Presses
  private readonly complaints: string[] = []
  private status = 0
  private picture: Visited['picture'] = null
  private field: Visited['field'] = null
  /** Loads of the page that nobody asked for, before anything was pressed. */
  private readonly loads: string[] = []
  /** What the page asked this receiver for, of other spots. */
  private readonly asked = new Map<string, number>()
  private isPressed = false
  private found: FoundForm | null = null

  /** @param patience by how much longer than usual one waits */
  constructor(
    context: BrowserContext,
    page: Page,
    private readonly wish: VisitWish,
    patience = 1,
  ) {
    this.person = new TypingPerson(page, {
      viewer: viewerOf(wish.viewer),
      words: wish.words,
      isSlow: wish.isSlow === true,
      wasLookedAt: wish.wasLookedAt === true,
      patience,
    })
    this.finder = new Finder(this.person, wish)
    this.filling = new Filling(this.person)
    const asksFor = formAddresses(wish.action)
    const arrivals = new Arrivals(context, new URL(wish.action).origin, patience)
    this.outcome = new SeenOutcome(context, wish, () => this.complaints, arrivals, patience)
    this.presses = new Presses(context, this.person, arrivals, () => this.complaints)
    context.on('page', (other) => {
      if (other !== this.person.page) this.finder.opened = other
    })
    context.on('console', (message) => {
      if (message.type() === 'error' && !OF_LOOKING.test(message.text())) this.complain(message.text())
    })
    context.on('weberror', (error) => this.complain(error.error().message))
    // A question of the page's ("Leave?") is answered with yes, as somebody who wants on would.
    context.on('dialog', (dialog) => {
      this.person.remark(`The page asked: “${dialog.message().slice(0, 200)}”.`)
      void dialog.accept().catch(() => {})
    })
    context.on('response', (response) => {
      const [, spot] = asksFor.exec(response.url()) ?? []
      if (spot !== undefined && spot !== wish.spot && this.asked.size < 10) this.asked.set(spot, response.status())
    })
    // Of new documents: a page that only changes its address stays.
    page.on('domcontentloaded', () => {
      if (!this.isPressed) this.loads.push(page.url())
    })
  }

  async go(): Promise<Visited> {
    return this.pictured(await this.use())
  }

  /** With a picture of the page as it was left, where none was taken before. */
  private async pictured(seen: Visited): Promise<Visited> {
    if (this.picture === null) {
      const form = this.found?.form ?? null
      const taken = await picturedAt(await this.person.scrolling(), form, this.person.within).catch(() => null)
      this.picture = taken?.jpeg ?? null
      this.field = taken?.field ?? null
    }
    const asksForPrograms = await this.person.page.evaluate((key) => key in globalThis, ASKED).catch(() => false)
    return { ...seen, picture: this.picture, field: this.field, ...(asksForPrograms && { asksForPrograms }) }
  }

  private async use(): Promise<Visited> {
    const { presses, fills } = this.wish
    await this.open()
    const met = await this.meet()
    if ('seen' in met) return met.seen
    const { found, stopped } = met
    const { form } = found
    let facts = await form.evaluate(factsOf)
    if (fills === null) {
      const sight = await this.look(found)
      return sight === null
        ? this.seen({ isThere: true, ...facts, ...(await this.swept(found)) })
        : stopped(sight, facts)
    }
    for (const fill of fills) {
      const obstacle = await this.filling.fill(form, fill)
      if (obstacle !== null) return stopped(this.left(obstacle), facts)
    }
    facts = await form.evaluate(factsOf)
    const trap = form.locator(`[name="${this.wish.trap}"]`).first()
    if (await this.person.isInSight(trap))
      return stopped({ code: 'trap-visible', detail: this.wish.trap, markup: await markupOf(trap) }, facts)
    await this.filling.turnTo(form, null)
    const changed = await this.filling.changedMeanwhile()
    if (changed !== null) return stopped(this.left(changed), facts)
    const button = await this.buttonIn(form)
    await this.takePicture(found, 'code' in button ? null : button)
    if ('code' in button) return stopped(this.left(button), facts)
    if (presses === 0) return this.seen({ isThere: true, ...facts })
    return this.press(found, button, presses, facts)
  }

  /** At a person's pace, and nothing is sent. */
  async slowly(): Promise<Visited> {
    return this.pictured(await this.useSlowly())
  }

  private async useSlowly(): Promise<Visited> {
    const { fills } = this.wish
    await this.open()
    const blankMs = await this.blankFor()
    const met = await this.meet()
    if (blankMs >= BLANK.saidFromMs)
      this.person.remark(`The page stays blank for ${Math.round(blankMs / 1_000)} seconds.`)
    if ('seen' in met) return met.seen
    const { found, stopped } = met
    const { form } = found
    const facts = await form.evaluate(factsOf)
    await this.person.rest(SLOW.lookMs)
    for (const fill of fills ?? []) {
      const obstacle = await this.filling.fill(form, fill, SLOW.keyMs)
      if (obstacle !== null) return stopped(this.left(obstacle), facts)
    }
    await this.person.rest(Math.max(0, this.person.openedAt + SLOW.wholeMs - performance.now()))
    const still = await this.filling.stillThere(form)
    if (still !== null) return stopped(this.left(still), facts)
    const changed = await this.filling.changedMeanwhile()
    if (changed !== null) return stopped(this.left(changed), facts)
    await this.filling.turnTo(form, null)
    const button = await this.buttonIn(form)
    await this.takePicture(found, 'code' in button ? null : button)
    return 'code' in button ? stopped(this.left(button), facts) : this.seen({ isThere: true, ...facts })
  }

  /** Leaves the page, as for another. */
  async leave(): Promise<void> {
    await this.person.page.close().catch(() => {})
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
      remarks: this.person.remarks,
      complaints: this.complaints,
      status: this.status,
      picture: this.picture,
      field: this.field,
      ...more,
    }
  }

  private complain(text: string): void {
    if (this.complaints.length < 10) this.complaints.push(text.slice(0, 300))
  }

  /** For how long the window has one colour, in milliseconds; at most twelve seconds are waited for. */
  private async blankFor(): Promise<number> {
    const { session } = await this.person.scrolling()
    let ms = 0
    while (ms < BLANK.waitedMs && (await isBlank(session).catch(() => false))) {
      ms = performance.now() - this.person.openedAt
      await this.person.rest(BLANK.lookEveryMs)
    }
    return ms
  }

  /** Opens what it takes to find the form, and looks whether it and its frames are in sight. */
  private async meet(): Promise<
    | { seen: Visited }
    | { found: FoundForm; stopped(obstacle: Obstacle, facts?: { width: number; sticksOut: boolean }): Visited }
  > {
    const found = await this.finder.find()
    if (found === null) {
      const html = (await this.person.page.content().catch(() => '')).slice(0, MOST_HTML)
      const address = this.person.page.url()
      return {
        seen: this.seen({
          html,
          ...(this.asked.size > 0 && { asked: [...this.asked].map(([spot, status]) => ({ spot, status })) }),
          ...(!isSamePage(address, this.wish.address) && { ledTo: address }),
        }),
      }
    }
    this.person.within = found.frame
    this.found = found
    const stopped = (obstacle: Obstacle, facts = { width: 0, sticksOut: false }): Visited =>
      this.seen({ isThere: true, ...facts, obstacle })
    const hidden = await this.person.frameSeen(found.frame)
    return hidden === null ? { found, stopped } : { seen: stopped(hidden) }
  }

  private async open(): Promise<void> {
    const { address, comesByItself, spot } = this.wish
    this.person.openedAt = performance.now()
    try {
      // The moment that a pop-up's rules name is not waited for.
      const response = await this.person.page.goto(
        comesByItself ? `${address.split('#')[0]}#askbox-rehearsal=${spot}` : address,
        {
          waitUntil: 'domcontentloaded',
          timeout: LOAD_MS * this.person.patience,
        },
      )
      this.status = response?.status() ?? 0
    } catch (error) {
      throw new NotOpened(shortly(error))
    }
    await this.person.page.waitForLoadState('load', { timeout: SETTLED_MS * this.person.patience }).catch(() => {})
    this.loads.length = 0
  }

  /** The form's first question and its button, as one looks at them who has yet to begin. */
  private async look(found: FoundForm): Promise<Obstacle | null> {
    const { form } = found
    const first = form.locator('input:not([type=hidden]), textarea, select').locator('visible=true').first()
    const target = (await first.count()) > 0 ? first : form
    const at = await this.person.sight(target)
    if (!('area' in at)) return at
    await this.takePicture(found, null, target)
    if ((await form.locator('.askbox-step').count()) > 1) return null
    const button = await this.buttonIn(form)
    return 'code' in button ? button : null
  }

  /** A page that reloaded itself explains any failure. */
  private left(obstacle: Obstacle): Obstacle {
    const last = this.loads.at(-1)
    if (last === undefined) return obstacle
    return {
      code: 'page-left',
      detail: isSamePage(last, this.wish.address)
        ? 'the page loaded itself anew, and what was typed was lost'
        : `the page led on by itself to ${last.startsWith('chrome-error:') ? 'an address that does not answer' : last}`,
      markup: obstacle.markup,
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
      const at = await this.person.sight(button)
      if (!('area' in at)) return at
      if (!isSubmit) this.person.remark('What looks like its button is none that sends.')
      return button
    }
    return { code: 'no-button', detail: '', markup: await markupOf(form) }
  }

  private async press(
    found: FoundForm,
    button: Locator,
    presses: 1 | 2,
    facts: { width: number; sticksOut: boolean },
  ): Promise<Visited> {
    const { form } = found
    const at = await this.person.sight(button, { isDrawn: false })
    const stopped = (obstacle: Obstacle) => this.seen({ isThere: true, ...facts, obstacle: this.left(obstacle) })
    if (!('area' in at)) return stopped(at)
    await form.evaluate(watchSubmit)
    // By itself: a locator would wait for one that has made room for the answer.
    const held = (await form.elementHandle()) as ElementHandle<Element> | null
    const before = await found.frame.evaluate(wordsShown).catch(() => [])
    const markup = await markupOf(form)
    const pressing = this.outcome.begin()
    this.isPressed = true
    try {
      await this.person.pressAt(at, presses)
    } catch (error) {
      return stopped(trouble(error, button.toString()))
    }
    const came = await pressing.end({
      page: this.person.page,
      ...{ found, button },
      before: { held, markup, before },
      frameSeen: (one) => this.person.frameSeen(one.frame),
    })
    const onward = came.obstacle === null ? await this.goOnward() : null
    if (onward !== null)
      return this.seen({ isThere: true, ...facts, obstacle: onward.obstacle, answer: onward.page, inPlace: null })
    const gift = this.wish.takesGift === true && came.obstacle === null ? await this.takeGift(found) : undefined
    return this.seen({ isThere: true, ...facts, ...came, ...(gift !== undefined && { gift }) })
  }

  /** In a frame, an answer that is a page of its owner's is a link away; null where there is none. */
  private async goOnward(): Promise<PressSeen | null> {
    for (const frame of this.person.page.frames()) {
      const link = frame.locator('a.askbox-onward').locator('visible=true').first()
      if (frame.parentFrame() === null || (await link.count().catch(() => 0)) === 0) continue
      this.person.within = frame
      this.person.remark('Its frame lets nothing out by itself: a link leads on.')
      return this.presses.press(link, frame)
    }
    return null
  }

  /** Presses what hands over the gift on the answer, wherever that is read; null where nothing does. */
  private async takeGift({ frame }: FoundForm): Promise<PressSeen | null> {
    for (const one of [frame, ...this.person.page.frames()]) {
      if (one.isDetached()) continue
      const link = one.locator('.askbox-result .askbox-gift, p.gift a').locator('visible=true').first()
      if ((await link.count().catch(() => 0)) === 0) continue
      this.person.within = one
      return this.presses.press(link)
    }
    return null
  }

  /** Screenshot for report and live view; none of a page that does not hold still. */
  private async takePicture({ form, frame }: FoundForm, button: Locator | null, field?: Locator): Promise<void> {
    const target = field ?? this.filling.typed[0]?.control ?? button ?? form
    const taken = await picturedAt(await this.person.scrolling(), target, frame).catch(() => null)
    if (taken === null) return
    this.picture = taken.jpeg
    this.field = taken.field
  }

  private async swept({ form }: FoundForm): Promise<Pick<Visited, 'hiddenAt'>> {
    const { page } = this.person
    return this.wish.sweeps === true && isSamePage(page.url(), this.wish.address)
      ? { hiddenAt: await hiddenWidths(page, form) }
      : {}
  }
}

/** Where this receiver hands out forms, with the spot; `action` is where the wished one sends to. */
function formAddresses(action: string): RegExp {
  const receiver = action.slice(0, action.lastIndexOf('/join/')).replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
  return new RegExp(`^${receiver}/(?:form|frame|page)/([A-Za-z0-9_-]+)(?:\\.json)?(?:[?#]|$)`)
}
