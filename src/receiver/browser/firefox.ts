import { randomUUID } from 'node:crypto'
import { existsSync } from 'node:fs'
import type { ElementHandle, Frame, Page } from 'puppeteer-core'
import { viewerOf } from '#core/proof'
import type { Obstacle, Visited, VisitedPage, VisitWish } from '#core/rehearsal'
import { openGuardedProxy } from '../outside'
import { factsOf, inPlaceOf, pressedAt, shownOf } from './in-page'
import { kill, memoryOf, processorTimes, RUN, takenByOthers } from './processes'
import { NotOpened, shortly, until } from './waiting'

/** Where Debian's package puts it. */
const PATH = '/usr/bin/firefox-esr'
const LOAD_MS = 20_000
const FORM_MS = 8_000
const ANSWER_MS = 12_000
const LOOK_EVERY_MS = 500
/** Turns of the wheel until the end of a long page. */
const MOST_TURNS = 40
const TURN_PX = 500
/** A small picture is enough. */
const PICTURE_SCALE = 0.3

export const isFirefoxThere = (): boolean => existsSync(PATH)

/**
 * One quick visit in Firefox, driven by WebDriver BiDi: the form is found, moved to by the wheel, filled in, sent, and the
 * answer read. It has a profile of its own that is thrown away, and everything goes by a guarded proxy.
 *
 * @param allowed addresses of this computer that may be reached
 * @param limits after which it is ended: milliseconds, and bytes of memory
 * @returns what was seen, and which share of the processors others had meanwhile
 * @throws NotOpened
 */
export async function visitInFirefox(
  wish: VisitWish,
  allowed: readonly string[],
  limits: { visitMs: number; memory: number },
): Promise<{ seen: Visited; takenByOthers: number }> {
  const { launch } = await import('puppeteer-core')
  const run = randomUUID()
  const before = processorTimes(run)
  let ended: string | null = null
  const end = (why: string) => {
    ended ??= why
    kill(run)
  }
  const proxy = await openGuardedProxy([...allowed])
  const { width, height } = viewerOf(wish.viewer)
  const late = setTimeout(() => end('The page was not done within its time.'), limits.visitMs)
  const watch = setInterval(() => {
    if (memoryOf(run) > limits.memory) end('The page took more memory than it may.')
  }, LOOK_EVERY_MS)
  try {
    const browser = await launch({
      browser: 'firefox',
      executablePath: PATH,
      headless: true,
      timeout: LOAD_MS,
      env: { PATH: process.env.PATH ?? '', HOME: '/nonexistent', LANG: 'C.UTF-8', [RUN]: run },
      extraPrefsFirefox: {
        'network.proxy.type': 1,
        'network.proxy.http': '127.0.0.1',
        'network.proxy.http_port': proxy.port,
        'network.proxy.ssl': '127.0.0.1',
        'network.proxy.ssl_port': proxy.port,
        'network.proxy.no_proxies_on': '',
        'network.proxy.allow_hijacking_localhost': true,
        'network.captive-portal-service.enabled': false,
        'media.peerconnection.enabled': false,
        'datareporting.policy.dataSubmissionEnabled': false,
      },
    })
    try {
      const page = await browser.newPage()
      await page.setViewport({ width, height, deviceScaleFactor: PICTURE_SCALE })
      const seen = await new Visit(page, wish).go()
      // While its threads still run: what is gone is not told from others.
      return { seen, takenByOthers: takenByOthers(before, processorTimes(run)) }
    } finally {
      await Promise.race([
        browser.close().catch(() => {}),
        new Promise((resolve) => setTimeout(resolve, 3_000).unref()),
      ])
    }
  } catch (error) {
    const [refused] = [...proxy.refusals].filter(([address]) => wish.address.startsWith(address))
    throw new NotOpened(ended ?? refused?.[1] ?? shortly(error))
  } finally {
    clearTimeout(late)
    clearInterval(watch)
    kill(run)
    proxy.close()
  }
}

class Visit {
  private status = 0
  private answer: { status: number; address: string } | null = null
  private isPressed = false
  private hasJoined = false

  constructor(
    private readonly page: Page,
    private readonly wish: VisitWish,
  ) {
    page.on('request', (request) => {
      if (request.method() === 'POST' && request.url() === wish.action) this.hasJoined = true
    })
    page.on('response', (response) => {
      const isRedirect = response.status() >= 300 && response.status() < 400
      if (!response.request().isNavigationRequest() || isRedirect) return
      if (this.isPressed) this.answer = { status: response.status(), address: response.url() }
      else if (response.frame() === page.mainFrame()) this.status = response.status()
    })
  }

  async go(): Promise<Visited> {
    const { address, comesByItself, spot, fills } = this.wish
    await this.page.goto(comesByItself ? `${address.split('#')[0]}#askbox-rehearsal=${spot}` : address, {
      waitUntil: 'domcontentloaded',
      timeout: LOAD_MS,
    })
    let found = await until(() => this.form(), FORM_MS)
    if (found === null && (await this.followLink())) found = await until(() => this.form(), FORM_MS)
    if (found === null) return this.seen({ html: await this.page.content().catch(() => '') })
    const { form, frame } = found
    const facts = await form.evaluate(factsOf)
    const stopped = (obstacle: Obstacle) => this.seen({ isThere: true, ...facts, obstacle })
    for (const { name, value } of fills ?? []) {
      const choice = value === null ? '' : `[value="${value.replaceAll('"', '')}"]`
      const control = (await form.$(`[name="${name}"][type=radio]${choice}`)) ?? (await form.$(`[name="${name}"]`))
      if (control === null) return stopped({ code: 'field-missing', detail: name, markup: '' })
      const obstacle = (await this.turnTo(form, control)) ?? (await this.put(control, value))
      if (obstacle !== null) return stopped(obstacle)
    }
    const turned = await this.turnTo(form, null)
    if (turned !== null) return stopped(turned)
    const button =
      (await form.$(`[formaction="${this.wish.action}"]`)) ??
      (await form.$('.askbox-button')) ??
      (await form.$('button:not([type=button]), [type=submit]'))
    if (button === null) return stopped({ code: 'no-button', detail: '', markup: '' })
    const met = await this.moveTo(button)
    const picture = await this.picture()
    if (met !== null) return { ...stopped(met), picture }
    this.isPressed = true
    await button.click({ delay: 60 })
    const came = await until(() => this.came(frame, form), ANSWER_MS)
    if (came !== null) return this.seen({ isThere: true, ...facts, ...came, picture })
    const code = this.hasJoined ? 'answer-missing' : 'submit-stopped'
    return { ...stopped({ code, detail: 'a press on the button does nothing', markup: '' }), picture }
  }

  private seen(more: Partial<Visited>): Visited {
    return {
      ...{ isThere: false, width: 0, sticksOut: false, obstacle: null, answer: null, inPlace: null, html: null },
      ...{ remarks: [], complaints: [], status: this.status, picture: null, field: null },
      ...more,
    }
  }

  /** In any frame or shadow tree. */
  private async form(): Promise<{ form: ElementHandle<Element>; frame: Frame } | null> {
    for (const frame of this.page.frames()) {
      const form = await frame.$(`>>> form[action="${this.wish.action}"]`).catch(() => null)
      if (form !== null && (await form.evaluate(shownOf).catch(() => null))?.isSeen === true) return { form, frame }
    }
    return null
  }

  private async followLink(): Promise<boolean> {
    for (const address of this.wish.pages) {
      const link = await this.page.$(`a[href^="${address}"]`)
      if (link === null || (await this.moveTo(link)) !== null) continue
      await link.click()
      return true
    }
    return false
  }

  /** Turns on to the step that something stands in, or to the last. */
  private async turnTo(form: ElementHandle<Element>, control: ElementHandle<Element> | null): Promise<Obstacle | null> {
    const steps = await form.$$('.askbox-step')
    for (const [at, step] of steps.entries()) {
      const isShut = await step.evaluate((one) => (one as HTMLElement).hidden)
      const isWanted =
        control === null ? at === steps.length - 1 : await control.evaluate((one, of) => of.contains(one), step)
      if (isWanted) return null
      const turns = isShut ? [] : await step.$$('.askbox-turns button')
      const next = turns.at(-1)
      if (next === undefined) continue
      const met = await this.moveTo(next)
      if (met !== null) return met
      await next.click()
    }
    return null
  }

  /** By the wheel until it stands in the window, and nothing over it. */
  private async moveTo(target: ElementHandle<Element>): Promise<Obstacle | null> {
    const shown = await target.evaluate(shownOf)
    if (!shown.isSeen) return { code: 'hidden', detail: shown.by, markup: shown.markup }
    const { height, width } = viewerOf(this.wish.viewer)
    await this.page.mouse.move(width / 2, height / 2)
    for (let turn = 0; turn < MOST_TURNS; turn += 1) {
      const box = await target.boundingBox()
      if (box === null) return { code: 'hidden', detail: 'it is without size', markup: '' }
      const middle = box.y + box.height / 2
      if (middle > 0 && middle < height) {
        const area = await target.evaluate((one) => {
          const { left, top, right, bottom } = one.getBoundingClientRect()
          return { left, top, right, bottom }
        })
        const hit = await target.evaluate(pressedAt, area)
        return hit.isSeen
          ? null
          : { code: hit.how === 'covered' ? 'covered' : 'hidden', detail: hit.by, markup: hit.markup }
      }
      await this.page.mouse.wheel({ deltaY: middle > height ? TURN_PX : -TURN_PX })
      await new Promise((resolve) => setTimeout(resolve, 60))
    }
    return { code: 'hidden', detail: 'the wheel does not bring it into the window', markup: '' }
  }

  private async put(control: ElementHandle<Element>, value: string | null): Promise<Obstacle | null> {
    const type = await control.evaluate((one) =>
      one.localName === 'input' ? (one as HTMLInputElement).type : one.localName,
    )
    if (type === 'hidden') return null
    const met = await this.moveTo(control)
    if (met !== null) return met
    if (type === 'select') await control.select(value ?? '')
    else if (type === 'checkbox' || type === 'radio') {
      if (!(await control.evaluate((one) => (one as HTMLInputElement).checked))) await control.click()
    } else {
      await control.click()
      await this.page.keyboard.type(value ?? '')
      const took = await control.evaluate((one) => (one as HTMLInputElement).value)
      if (took.trim() !== (value ?? '').trim() && type !== 'date')
        return { code: 'field-locked', detail: `took “${took.slice(0, 80)}” of “${value?.slice(0, 80)}”`, markup: '' }
    }
    return null
  }

  private async came(frame: Frame, form: ElementHandle<Element>): Promise<Partial<Visited> | null> {
    const place = await form.evaluate(inPlaceOf).catch(() => null)
    if (place !== null && place.kind !== 'none') return { inPlace: place }
    if (this.answer === null) return null
    const { status, address } = this.answer
    // A form in a frame that an own page of its owner's took the place of: its frame is gone with the page around it.
    const shown = frame.detached ? this.page.mainFrame() : frame
    const html = await shown.content().catch(() => '')
    const answer: VisitedPage = { status, address, html, ledTo: null }
    return html === '' ? null : { answer }
  }

  private async picture(): Promise<string | null> {
    return this.page.screenshot({ type: 'jpeg', quality: 60, encoding: 'base64' }).catch(() => null)
  }
}
