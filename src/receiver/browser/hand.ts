import type { BrowserContext, ElementHandle, Locator, Page } from 'playwright-core'
import { isSamePage, viewerOf } from '#core/proof'
import type { Fill, Obstacle, Visited, VisitWish } from '#core/rehearsal'
import { isBlank } from './drawing'
import { Finder, type Found } from './finder'
import { factsOf, watchSubmit, wordsShown } from './in-page'
import { Outcome } from './outcome'
import { Person } from './person'
import { picturedAt } from './pictured'
import { hiddenWidths } from './sweep'
import { markupOf, NotOpened, shortly, trouble } from './waiting'

const LOAD_MS = 20_000
/** What a site loads for itself is not waited for longer. */
const SETTLED_MS = 3_000
/** Longer texts come at once, as from the clipboard. */
const MOST_TYPED = 60
const MOST_HTML = 3 * 1024 * 1024
/** A slow visit: looking, typing, and the twenty seconds that people take. */
const SLOW = { lookMs: 1_500, keyMs: 90, wholeMs: 20_000 }
/** So long a page is waited for that shows nothing. */
const BLANK = { saidFromMs: 10_000, waitedMs: 12_000, lookEveryMs: 250 }

/** One visitor of a page with a spot's form: finds it, fills it in, sends it, reads what comes. */
export class Hand {
  private readonly person: Person
  private readonly finder: Finder
  private readonly outcome: Outcome
  private readonly complaints: string[] = []
  private status = 0
  private picture: Visited['picture'] = null
  private field: Visited['field'] = null
  /** Loads of the page that nobody asked for, before anything was pressed. */
  private readonly loads: string[] = []
  private isPressed = false
  private found: Found | null = null
  /** What was typed, to see whether it stays. */
  private readonly typed: { control: Locator; text: string; name: string }[] = []

  /** @param patience by how much longer than usual one waits */
  constructor(
    context: BrowserContext,
    page: Page,
    private readonly wish: VisitWish,
    patience = 1,
  ) {
    this.person = new Person(page, {
      viewer: viewerOf(wish.viewer),
      words: wish.words,
      isSlow: wish.isSlow === true,
      wasLookedAt: wish.wasLookedAt === true,
      patience,
    })
    this.finder = new Finder(this.person, wish)
    this.outcome = new Outcome(context, wish, () => this.complaints, patience)
    context.on('page', (other) => {
      if (other !== this.person.page) this.finder.opened = other
    })
    context.on('console', (message) => {
      if (message.type() === 'error') this.complain(message.text())
    })
    context.on('weberror', (error) => this.complain(error.error().message))
    // A question of the page's ("Leave?") is answered with yes, as somebody who wants on would.
    context.on('dialog', (dialog) => {
      this.person.remark(`The page asked: “${dialog.message().slice(0, 200)}”.`)
      void dialog.accept().catch(() => {})
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
    return { ...seen, picture: this.picture, field: this.field }
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
      const obstacle = await this.fill(form, fill)
      if (obstacle !== null) return stopped(this.left(obstacle), facts)
    }
    facts = await form.evaluate(factsOf)
    const trap = form.locator(`[name="${this.wish.trap}"]`).first()
    if (await this.person.isInSight(trap))
      return stopped({ code: 'trap-visible', detail: this.wish.trap, markup: await markupOf(trap) }, facts)
    await this.turnTo(form, null)
    const changed = await this.changedMeanwhile()
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
      const obstacle = await this.fill(form, fill, SLOW.keyMs)
      if (obstacle !== null) return stopped(this.left(obstacle), facts)
    }
    await this.person.rest(Math.max(0, this.person.openedAt + SLOW.wholeMs - performance.now()))
    const still = await this.stillThere(form)
    if (still !== null) return stopped(this.left(still), facts)
    const changed = await this.changedMeanwhile()
    if (changed !== null) return stopped(this.left(changed), facts)
    await this.turnTo(form, null)
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

  /** Whether the form was taken away since it was found. */
  private async stillThere(form: Locator): Promise<Obstacle | null> {
    if ((await form.count()) > 0) return null
    return {
      code: 'hidden',
      detail: 'It was there at first, and was taken away while it was being filled in',
      markup: '',
    }
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
    | { found: Found; stopped(obstacle: Obstacle, facts?: { width: number; sticksOut: boolean }): Visited }
  > {
    const found = await this.finder.find()
    if (found === null) {
      const html = (await this.person.page.content().catch(() => '')).slice(0, MOST_HTML)
      const address = this.person.page.url()
      return { seen: this.seen({ html, ...(!isSamePage(address, this.wish.address) && { ledTo: address }) }) }
    }
    this.person.within = found.frame
    this.found = found
    const stopped = (obstacle: Obstacle, facts = { width: 0, sticksOut: false }): Visited =>
      this.seen({ isThere: true, ...facts, obstacle })
    const hidden = await this.person.frameSeen(found.frame)
    return hidden === null ? { found, stopped } : { seen: stopped(hidden) }
  }

  private async open(): Promise<void> {
    const { address, isPopUp } = this.wish
    this.person.openedAt = performance.now()
    try {
      // The moment that a pop-up's rules name is not waited for.
      const response = await this.person.page.goto(isPopUp ? `${address.split('#')[0]}#askbox-rehearsal` : address, {
        waitUntil: 'domcontentloaded',
        timeout: LOAD_MS * this.person.patience,
      })
      this.status = response?.status() ?? 0
    } catch (error) {
      throw new NotOpened(shortly(error))
    }
    await this.person.page.waitForLoadState('load', { timeout: SETTLED_MS * this.person.patience }).catch(() => {})
    this.loads.length = 0
  }

  /** The form's first question and its button, as one looks at them who has yet to begin. */
  private async look(found: Found): Promise<Obstacle | null> {
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

  private async fill(form: Locator, { name, value }: Fill, keyMs = 0): Promise<Obstacle | null> {
    const named = form.locator(`[name="${name.replaceAll('"', '')}"]`)
    if ((await named.count()) === 0)
      return (await this.stillThere(form)) ?? { code: 'field-missing', detail: name, markup: '' }
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
      // What she types is looked at with the field.
      const isTyped = type !== 'select' && type !== 'date'
      const at = await this.person.sight(first, { isDrawn: !isTyped })
      if (!('area' in at)) return at
      if (type === 'select') {
        await first.selectOption(value)
        return null
      }
      if (type === 'date') {
        await first.fill(value ?? '')
        return null
      }
      await this.person.pressAt(at)
      if ((await first.inputValue()) !== '') await first.fill('')
      const text = value ?? ''
      if (text.length > MOST_TYPED || /[^\x20-\x7e\n]/.test(text)) await this.person.page.keyboard.insertText(text)
      else await this.person.page.keyboard.type(text, { delay: keyMs })
      const took = await first.inputValue()
      if (!isSame(took, text)) return await locked(`took “${took.slice(0, 80)}” of “${text.slice(0, 80)}”`)
      this.typed.push({ control: first, text, name })
      // What she typed has to be read.
      const unseen = await this.person.drawn(first, at.area)
      return unseen === null || (await this.person.settled(first, at)) ? null : await this.person.undrawn(first, unseen)
    } catch (error) {
      const met = await this.person.sight(first).catch(() => null)
      return met !== null && !('area' in met) ? met : trouble(error, name)
    }
  }

  /** What was typed is not there any more as it was. */
  private async changedMeanwhile(): Promise<Obstacle | null> {
    for (const { control, text, name } of this.typed) {
      const now = await control.inputValue({ timeout: 500 }).catch(() => null)
      if (now !== null && !isSame(now, text))
        return {
          code: 'field-locked',
          detail: `“${name}” was “${text.slice(0, 80)}” and became “${now.slice(0, 80)}” by itself`,
          markup: await markupOf(control),
        }
    }
    return null
  }

  /** A page that loaded itself anew meanwhile is the reason of whatever went wrong. */
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

  private async tick(form: Locator, box: Locator, name: string): Promise<Obstacle | null> {
    if (await box.isChecked()) return null
    const id = await box.getAttribute('id')
    const label = id === null ? null : form.locator(`label[for="${id}"]`).first()
    const around = form.locator('label', { has: box }).first()
    // Its words are pressed as often as the box itself, which many sites draw anew and hide.
    const targets: Locator[] = []
    for (const one of [box, label, around]) if (one !== null && (await one.count()) > 0) targets.push(one)
    for (const target of targets) {
      const at = await this.person.glance(target)
      if (!('area' in at)) continue
      await this.person.pressAt(at)
      if (await box.isChecked()) return null
    }
    const at = await this.person.sight(targets.at(-1)!)
    if (!('area' in at)) return at
    await this.person.pressAt(at)
    if (await box.isChecked()) return null
    return { code: 'field-locked', detail: `“${name}” cannot be ticked`, markup: await markupOf(box) }
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
      const at = await this.person.sight(next)
      if (!('area' in at)) return
      await this.person.pressAt(at)
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
    found: Found,
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
    return this.seen({
      isThere: true,
      ...facts,
      ...(await pressing.end(this.person.page, found, button, { held, markup, before }, (one) =>
        this.person.frameSeen(one.frame),
      )),
    })
  }

  /** For the report, and for whoever watches; a page that does not hold still has none. */
  private async takePicture({ form, frame }: Found, button: Locator | null, field?: Locator): Promise<void> {
    const target = field ?? this.typed[0]?.control ?? button ?? form
    const taken = await picturedAt(await this.person.scrolling(), target, frame).catch(() => null)
    if (taken === null) return
    this.picture = taken.jpeg
    this.field = taken.field
  }

  private async swept({ form }: Found): Promise<Pick<Visited, 'hiddenAt'>> {
    const { page } = this.person
    return this.wish.sweeps === true && isSamePage(page.url(), this.wish.address)
      ? { hiddenAt: await hiddenWidths(page, form) }
      : {}
  }
}

function isSame(one: string, other: string): boolean {
  const plain = (text: string) => text.trim().replaceAll('\r\n', '\n')
  return plain(one) === plain(other)
}
