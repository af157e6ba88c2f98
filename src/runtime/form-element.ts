import { enhance } from './enhance'
import type { PublishedForm } from './published'
import { isKnown, rememberJoined, stored } from './joined'
import { adopt, built, keepRoom } from './nodes'

/**
 * Whatever the site says of the element itself or of all text, except for the font that forms take from it. What stands
 * around the form inside it does not run together with the page's own space, so that its height is known beforehand.
 */
const HOST =
  ':host{all:initial!important;display:flow-root!important;width:100%!important;min-width:min(100%,15em)!important;min-height:var(--askbox-room,0)!important;font-family:inherit!important;font-size:inherit!important;color:inherit!important;color-scheme:inherit!important'

/** The most room that is kept for a form of some height, in CSS pixels. A larger hole below it would be seen as one. */
const mostRoom = (height: number) => height * 1.125 + 64

/** One form in a tree of its own: neither do the site's styles reach in, nor the form's out. */
export class FormElement extends HTMLElement {
  /**
   * @param reserved height in CSS pixels that its place had until now; kept where the form is somewhat lower, so that
   *   nothing below it moves
   * @param around puts the form into something else
   */
  show(published: PublishedForm, reserved = 0, around = (form: Node): Node => form): void {
    const { isOfSite, styles, known, spot, isTried } = published
    const root = isOfSite ? this : this.attachShadow({ mode: 'open' })
    const card = built(published.form!) as Element
    const form = card.querySelector('form')
    const greeting = known && isKnown(spot) ? (built(known) as Element) : null
    adopt(
      isOfSite ? (this.getRootNode() as Document | ShadowRoot) : (root as ShadowRoot),
      isOfSite ? `askbox-form{display:block}${styles}` : `${HOST}}${styles}`,
    )
    if (published.font) loadFont(published.font)
    root.append(around(greeting ?? card))
    greeting?.querySelector('button')?.addEventListener('click', () => {
      greeting.replaceWith(card)
      this.focusFirst()
    })
    if (published.isKept) stored(`wording-${spot}`, published.version)
    if (form)
      enhance(form, published.settings!, {
        isInPlace: true,
        view: published.view,
        onJoined: () => rememberJoined(published),
      })
    // Where wordings are shown in turn, all of them have the same room: what moves the page would be measured with the words.
    if (isTried || reserved < mostRoom(this.offsetHeight)) keepRoom(this, reserved)
  }

  focusFirst(): void {
    const root = this.shadowRoot ?? this
    root.querySelector<HTMLElement>('input:not([type=hidden]),button')?.focus()
  }
}

const fonts = new Set<string>()

function loadFont(address: string): void {
  if (fonts.has(address)) return
  fonts.add(address)
  document.fonts.add(new FontFace('Ask Box Sans', `url(${address})`, { weight: '200 900', display: 'swap' }))
}
