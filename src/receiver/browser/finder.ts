import type { Frame, Locator, Page } from 'playwright-core'
import { viewerOf } from '#core/proof'
import type { VisitWish } from '#core/rehearsal'
import type { TypingPerson } from './person'
import { answeredSoon, until } from './waiting'

/** A form that scripts make comes later than the page; then one looks about. */
const SOON_MS = 1_000
const FORM_MS = 5_000
/** A pop-up that must not come is waited for so long. */
const ABSENT_MS = 1_200
/** Elements still hidden after so long count as hidden. */
const HIDDEN_MS = 800

export interface FoundForm {
  frame: Frame
  form: Locator
}

/** Looks for the form of one spot on a page. */
export class Finder {
  private hiddenSince = 0
  /** A page that was opened beside. */
  opened: Page | null = null

  constructor(
    private readonly person: TypingPerson,
    private readonly wish: VisitWish,
  ) {}

  /** The form, wherever on the page; behind a link of ours, on the page that it leads to; behind what opens it. */
  async find(): Promise<FoundForm | null> {
    const { comesByItself, fills } = this.wish
    const isAbsentWished = comesByItself && fills === null
    const isOnlyLink = async () => {
      // Without a place for a script to fill, and without a frame that may still load, there is only the link.
      const isLink = (await this.person.page.locator(this.links()).count()) > 0
      return (
        isLink && (!this.hasScripts() || (await this.person.page.locator('script[src*="askbox.js"]').count()) === 0)
      )
    }
    const begun = performance.now()
    const soon = await until(() => this.spotted(), SOON_MS * this.person.patience, isOnlyLink)
    if (soon !== null) return soon
    if (!comesByItself && (await isOnlyLink())) return this.throughLink()
    // What comes to be seen only where one moves, or looks further down.
    const moved = await this.person.lookAround(() => this.spotted())
    if (moved !== null) return moved
    const rest = (isAbsentWished ? ABSENT_MS : FORM_MS * this.person.patience) - (performance.now() - begun)
    const late = await until(() => this.spotted(), Math.max(0, rest), isOnlyLink)
    if (late !== null || comesByItself) return late
    if ((await this.person.page.locator(this.links()).count()) > 0) return this.throughLink()
    return this.openUp()
  }

  private async throughLink(): Promise<FoundForm | null> {
    const link = this.person.page.locator(this.links()).first()
    const at = await this.person.sight(link, { frame: this.person.page.mainFrame() })
    if (!('area' in at)) return null
    await this.person.pressAt(at)
    const landed = await until(async () => {
      if (this.opened !== null) this.person.turnToPage(this.opened)
      return this.spotted()
    }, FORM_MS * this.person.patience)
    if (landed !== null) this.person.remark('Through its link.')
    return landed
  }

  /** Without a form to go by: whatever says what it says. */
  private async openUp(): Promise<FoundForm | null> {
    this.person.within = this.person.page.mainFrame()
    let found: FoundForm | null = null
    await this.person.tryOpeners(this.person.page.locator('html'), async () => (found = await this.spotted()) !== null)
    return found
  }

  /** Of several, the one that is drawn. */
  private async spotted(): Promise<FoundForm | null> {
    let hidden: FoundForm | null = null
    for (const frame of this.person.page.frames()) {
      const found = await answeredSoon(this.spottedIn(frame))
      if (found?.isVisible === true) return found
      hidden ??= found
    }
    // A form that scripts just make appears in a moment; what stays out of sight is hidden.
    if (hidden !== null && this.hiddenSince === 0) this.hiddenSince = performance.now()
    return hidden !== null && performance.now() - this.hiddenSince > HIDDEN_MS * this.person.patience ? hidden : null
  }

  private async spottedIn(frame: Frame): Promise<(FoundForm & { isVisible: boolean }) | null> {
    const all = await this.formsIn(frame)
    const count = await all.count()
    for (let at = 0; at < count; at += 1)
      if (await all.nth(at).isVisible()) return { frame, form: all.nth(at), isVisible: true }
    return count === 0 ? null : { frame, form: all.first(), isVisible: false }
  }

  /** Our own; else a form of the page around our fields, whose own tag browsers then leave out. */
  private async formsIn(frame: Frame): Promise<Locator> {
    const action = this.wish.action.replaceAll('"', '')
    const own = frame.locator(`form[action="${action}"]`)
    // Not by a selector, which would look into the trees of scripts as well.
    return (await own.count()) > 0 ? own : frame.locator(`xpath=//form[.//*[@formaction="${action}"]]`)
  }

  private links(): string {
    return this.wish.pages.map((page) => `a[href^="${page.replaceAll('"', '')}"]`).join(', ')
  }

  private hasScripts(): boolean {
    return viewerOf(this.wish.viewer).hasScripts
  }
}
