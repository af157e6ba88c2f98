import type { FormElement } from './form-element'
import { enhance } from './enhance'
import { fetched } from './fetched'
import type * as LateModule from './late'
import { rememberJoined } from './joined'
import { load } from './load'

/** How long a place keeps its room: see `placePart`. */
const ROOM_MS = 5e3
const seen = new WeakSet<Node>()
/** Links that became forms. They stay in the page, hidden: programs that made the page look for what they put there. */
const places = new Map<HTMLElement, { host: FormElement; spot: string }>()
/** Forms whose link the page's program took away; it may put another for the same spot, and what was typed goes on there. */
const spare = new Map<string, FormElement>()

/** Forms come and go with their links, whatever a page's program did to either. */
export function keepPlaces(): void {
  for (const [link, { host, spot }] of places) {
    if (!link.isConnected) {
      host.remove()
      spare.set(spot, host)
      places.delete(link)
    } else if (!host.isConnected) put(host, link)
    else hide(link)
  }
}

/** Makes a form of every link that asks for one, and plain forms better where they stand. Looks into open shadow roots, too. */
export function fillPlaces(base: string, root: ParentNode & Node, watch: (root: Node) => void): void {
  if (isNew(root)) watch(root)
  for (const link of root.querySelectorAll<HTMLAnchorElement>('a[href*="/page/"]')) {
    const { origin, pathname, hash } = new URL(link.href)
    const start = `${base}page/`
    if (hash === '#askbox' && (origin + pathname).startsWith(start) && isNew(link))
      void fill(base, link, (origin + pathname).slice(start.length))
  }
  for (const form of root.querySelectorAll<HTMLFormElement>('form.askbox'))
    if (form.action.startsWith(`${base}join/`) && isNew(form)) void improve(base, form)
  for (const { shadowRoot, localName } of root.querySelectorAll('*'))
    if (shadowRoot && localName !== 'askbox-form') fillPlaces(base, shadowRoot, watch)
}

function isNew(node: Node): boolean {
  const isKnown = seen.has(node)
  seen.add(node)
  return !isKnown
}

async function fill(base: string, link: HTMLAnchorElement, spot: string): Promise<void> {
  const spacers = spacersOf(link)
  // The room goes by itself after some seconds without this script: coming later than that, it takes none from what is read.
  // What a closed tab or the site's own styles hide had no room to give back.
  const isLate =
    spacers.length > 0 &&
    performance.now() > ROOM_MS &&
    link.offsetHeight > 0 &&
    spacers.every((spacer) => spacer.getBoundingClientRect().height < 2)
  for (const spacer of isLate ? [] : spacers) {
    spacer.style.animation = 'none'
    ;(spacer as SVGSVGElement).pauseAnimations?.()
  }
  const published = await load(base, spot)
  await nextPaint()
  const isPressed =
    isLate &&
    published?.state === 'live' &&
    (await fetched<typeof LateModule>(base, 'late').then((late) => late?.outOfSight(link)))
  const height = spacers.length > 0 ? link.parentElement!.offsetHeight : 0
  if (published !== null) hide(link)
  for (const spacer of spacers) hide(spacer)
  if (!published?.form || !link.isConnected) return
  const spareForm = spare.get(spot)
  const host = spareForm ?? (document.createElement('askbox-form') as FormElement)
  spare.delete(spot)
  places.set(link, { host, spot })
  put(host, link)
  if (spareForm === undefined) host.show(published, height)
  if (isPressed) host.focusFirst()
}

function put(host: FormElement, link: HTMLElement): void {
  hide(link)
  link.after(host)
}

/** Whatever the site says of such elements. */
function hide(element: HTMLElement | SVGElement): void {
  if (element.style.display !== 'none') element.style.setProperty('display', 'none', 'important')
}

/** What keeps the place: all that stands beside the link, and nothing where that is anything else. */
function spacersOf(link: HTMLElement): (HTMLElement | SVGElement)[] {
  const others = [...(link.parentNode?.childNodes ?? [])].filter((node) => node !== link && !isBlank(node))
  return others.every(({ nodeName }) => /^(br|canvas|svg)$/i.test(nodeName)) ? (others as HTMLElement[]) : []
}

function isBlank({ nodeValue }: Node): boolean {
  return nodeValue !== null && !nodeValue.trim()
}

/** The page is painted before anything is built in it. What is out of sight may paint nothing, and is not waited for. */
function nextPaint(): Promise<void> {
  return new Promise((resolve) => {
    requestAnimationFrame(() => setTimeout(resolve))
    setTimeout(resolve, 200)
  })
}

async function improve(base: string, form: HTMLFormElement): Promise<void> {
  try {
    const own = form.querySelector('script.askbox-settings')
    const version = form.querySelector<HTMLInputElement>('[name="askbox-version"]')?.value
    if (own !== null) return enhance(form, JSON.parse(own.textContent ?? ''))
    const published = await load(base, form.action.slice(base.length + 5), version)
    if (published?.settings)
      enhance(form, published.settings, {
        ...{ isInPlace: true, view: published.view, onJoined: () => rememberJoined(published) },
      })
  } catch {
    // A form whose settings were changed on the page stays the plain form that it is.
  }
}
