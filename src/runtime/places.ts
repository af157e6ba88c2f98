import type { FormElement, Published } from './form-element'
import { enhance } from './enhance'

/** What the receiver says of a spot; null when it cannot be reached or knows none. Asked once for each. */
export function load(base: string, spot: string, version = ''): Promise<Published | null> {
  const address = `${base}form/${spot}.json${version && `?version=${version}`}`
  const known = asked.get(address)
  if (known !== undefined) return known
  const answer = fetch(address, { credentials: 'omit' }).then(
    (response) => (response.ok ? response.json() : null),
    () => null,
  )
  asked.set(address, answer)
  return answer
}
const asked = new Map<string, Promise<Published | null>>()
const seen = new WeakSet<Element>()

/** Makes a form of every link that asks for one, and plain forms better where they stand. */
export function fillPlaces(base: string): void {
  for (const link of document.querySelectorAll<HTMLAnchorElement>('a[href*="/page/"]')) {
    const [address, fragment] = link.href.split('#')
    if (fragment === 'askbox' && address!.startsWith(`${base}page/`) && isNew(link))
      void fill(base, link, address!.slice(base.length + 5))
  }
  for (const form of document.querySelectorAll<HTMLFormElement>('form.askbox'))
    if (form.action.startsWith(`${base}join/`) && isNew(form)) void improve(base, form)
}

function isNew(element: Element): boolean {
  const isKnown = seen.has(element)
  seen.add(element)
  return !isKnown
}

async function fill(base: string, link: HTMLAnchorElement, spot: string): Promise<void> {
  const published = await load(base, spot)
  await nextPaint()
  const { parentElement: around } = link
  if (around === null) return
  const height = around.offsetHeight
  // What kept the place until now.
  for (const spacer of around.querySelectorAll('br, canvas')) spacer.remove()
  if (published === null) return
  if (published.state === 'live') {
    const host = document.createElement('askbox-form') as FormElement
    link.replaceWith(host)
    host.show(published, around.textContent!.trim() === '' ? height : 0)
    return
  }
  link.remove()
  if (around.localName === 'div' && around.childElementCount === 0 && around.textContent!.trim() === '') around.remove()
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
    const settings =
      own !== null
        ? JSON.parse(own.textContent ?? '')
        : (await load(base, form.action.slice(base.length + 5), version))?.settings
    if (settings) enhance(form, settings, { isInPlace: own === null })
  } catch {
    // A form whose settings were changed on the page stays the plain form that it is.
  }
}
