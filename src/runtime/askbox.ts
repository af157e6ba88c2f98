import { FormElement } from './form-element'
import { fetched } from './fetched'
import { element } from './nodes'
import { load } from './load'
import { fillPlaces, keepPlaces } from './places'
import type * as PopUpModule from './pop-up'

/*
 * The visitors' script, served at /askbox.js: `<script async src="…/askbox.js"></script>` makes forms of the links that
 * ask for one and plain forms better; `…/askbox.js#pop-up-SPOT` shows a pop-up as well. It may stand on a page any number of
 * times, anywhere. Without it every form is a plain form, and every link leads to one. No cookie; it remembers only what
 * a pop-up's rules need, who signed up where its owner greets them, and for as long as the tab is open what was typed and
 * not sent. What few pages need, it fetches when it is needed.
 */
const POP_UP = '#pop-up-'
/** A page that changes all the time is looked at so often. */
const LOOK_MS = 200
/** A shadow root that comes late changes nothing that could be watched: it is looked for so many times, a second apart. */
const LATE_LOOKS = 10
const script = document.currentScript as HTMLScriptElement | null

// A copy that came first does what this one would.
if (!customElements.get('askbox-form')) customElements.define('askbox-form', FormElement)
const started = ((document as unknown as Record<symbol, Set<string>>)[Symbol.for('askbox')] ??= new Set())

if (script !== null) {
  const { origin, pathname, hash } = new URL(script.src)
  const base = `${origin}${pathname.slice(0, pathname.lastIndexOf('/') + 1)}`
  once(base, () => {
    // Some pages build themselves, and change without being loaded anew.
    let isDue = false
    const look = () => {
      isDue = false
      keepPlaces()
      fillPlaces(base, document, (root) => changes.observe(root, { childList: true, subtree: true }))
      for (const { localName } of document.querySelectorAll(':not(:defined)'))
        if (!awaited.has(localName)) {
          awaited.add(localName)
          void customElements.whenDefined(localName).then(soon)
        }
    }
    /** Elements that a program of the page has yet to define: they may bring a shadow root. */
    const awaited = new Set<string>()
    const soon = () => {
      if (!isDue) setTimeout(look, LOOK_MS)
      isDue = true
    }
    const changes = new MutationObserver(soon)
    for (let at = 1; at <= LATE_LOOKS; at += 1) setTimeout(look, at * 1e3)
    if (document.readyState === 'loading') addEventListener('DOMContentLoaded', look)
    else look()
    addEventListener('load', look)
    if (location.hash.startsWith('#askbox-r')) void fetched(base, 'rehearsal')
  })
  if (hash.startsWith(POP_UP))
    once(script.src, () => {
      const begin = async () =>
        (await fetched<typeof PopUpModule>(base, 'pop-up'))?.popUp({ load, element }, base, hash.slice(POP_UP.length))
      if (document.readyState === 'complete') void begin()
      else addEventListener('load', () => void begin())
    })
}

function once(what: string, act: () => void): void {
  if (started.has(what)) return
  started.add(what)
  act()
}
