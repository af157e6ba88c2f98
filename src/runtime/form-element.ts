import type { WiredForm } from '#core/render'
import type { PopUp } from '#core/spot'
import { enhance } from './enhance'
import { adopt, built } from './nodes'

/** What `GET /form/:spot.json` says of a spot. Only a live one comes with its form. */
export interface Published extends Partial<WiredForm> {
  spot: string
  state: 'live' | 'paused' | 'retired'
  version: number
  popUp?: PopUp
}

/**
 * Whatever the site says of the element itself or of all text, except for the font that forms take from it. What stands
 * around the form inside it does not run together with the page's own space, so that its height is known beforehand.
 */
const HOST =
  ':host{all:initial!important;display:flow-root!important;font-family:inherit!important;font-size:inherit!important;color:inherit!important;color-scheme:inherit!important'

/** One form in a tree of its own: neither do the site's styles reach in, nor the form's out. */
export class FormElement extends HTMLElement {
  /**
   * @param reserved height in CSS pixels that its place had until now; kept where the form is a little lower, so that
   *   nothing below it moves
   * @param around puts the form into something else
   */
  show(published: Published, reserved = 0, around = (form: Node): Node => form): void {
    const { isOfSite, styles, known, spot } = published
    const root = isOfSite ? this : this.attachShadow({ mode: 'open' })
    const form = built(published.form!) as HTMLFormElement
    const greeting = known && isKnown(spot) ? (built(known) as Element) : null
    adopt(
      root instanceof ShadowRoot ? root : document,
      isOfSite ? `askbox-form{display:block}${styles}` : `${HOST}}${styles}`,
    )
    if (published.font) loadFont(published.font)
    root.append(around(greeting ?? form))
    greeting?.querySelector('button')?.addEventListener('click', () => {
      greeting.replaceWith(form)
      form.querySelector<HTMLElement>('input:not([type=hidden])')?.focus()
    })
    enhance(form, published.settings!, {
      isInPlace: true,
      onJoined() {
        form.dispatchEvent(new CustomEvent('askbox-joined', { bubbles: true }))
        if (known) remember(spot)
      },
    })
    const missing = reserved - this.offsetHeight
    if (!isOfSite && missing > 0 && missing < 40) adopt(root as ShadowRoot, `:host{min-height:${reserved}px!important}`)
  }
}

/** Remembered in the page's own storage, and only where the owner has something else to show to who signed up here. */
function isKnown(spot: string): boolean {
  try {
    return localStorage.getItem(`askbox-known-${spot}`) !== null
  } catch {
    return false
  }
}

function remember(spot: string): void {
  try {
    localStorage.setItem(`askbox-known-${spot}`, 'joined')
  } catch {
    // Where storage is blocked, nobody is known.
  }
}

const fonts = new Set<string>()

function loadFont(address: string): void {
  if (fonts.has(address)) return
  fonts.add(address)
  document.fonts.add(new FontFace('Ask Box Sans', `url(${address})`, { weight: '200 900', display: 'swap' }))
}
