/*
 * Counts how a page's forms are seen: on screen for a second, and begun by a first key or press. One message when the page
 * is left, which names no visitor; nothing is kept here. Fetched after a form is shown, so that it delays none. The page's
 * own programs hear of it as well: `askbox:seen`, `askbox:started`.
 */

const SEEN_MS = 1_000
const LEAST_PART = 0.5

interface Counted {
  spot: string
  /** The receiver's note of this view. */
  view: string
  isSeen: boolean
  isStarted: boolean
  /** What was told of it already. */
  told: { isSeen: boolean; isStarted: boolean }
}

const forms: Counted[] = []
let base = ''
let cameFrom = {}

/**
 * @param isInPlace whether it stands on a site's page; elsewhere the server counts who sees it
 * @param tellsSeen whether it is told that it was on screen
 */
export function watch(form: HTMLFormElement, isInPlace: boolean, tellsSeen = isInPlace || parent !== window): void {
  const at = form.action.lastIndexOf('/join/')
  const spot = form.action.slice(at + 6)
  const isMade = document.referrer.startsWith(form.action.slice(0, at + 1)) && isInPlace
  // Whoever said so is not counted (Global Privacy Control; Do Not Track), nor a rehearsal, nor its owner's own look.
  const { doNotTrack, globalPrivacyControl } = navigator as Navigator & { globalPrivacyControl?: boolean }
  const hidden = (name: string) => form.querySelector<HTMLInputElement>(`[name=askbox-${name}]`)?.value ?? ''
  const view = hidden('view')
  if (doNotTrack === '1' || globalPrivacyControl || navigator.webdriver || isMade || !view)
    return tell(form, tellsSeen, null)
  if (location.hash.startsWith('#askbox-r') || !/^\w+$/.test(spot)) return
  const counted: Counted = { spot, view, isSeen: false, isStarted: false, told: { isSeen: false, isStarted: false } }
  base = form.action.slice(0, at + 1)
  if (forms.length === 0) {
    addEventListener('pagehide', send)
    document.addEventListener('visibilitychange', () => document.hidden && send())
  }
  cameFrom = { source: hidden('source'), campaign: hidden('campaign'), referrer: hidden('referrer') }
  forms.push(counted)
  tell(form, tellsSeen, counted, isInPlace)
}

function tell(form: HTMLFormElement, tellsSeen: boolean, counted: Counted | null, countsSeen = false): void {
  const say = (name: string) =>
    form.dispatchEvent(
      new CustomEvent(`askbox:${name}`, {
        bubbles: true,
        composed: true,
        detail: { spot: form.action.split('/').pop() },
      }),
    )
  // Only where their owner chose so, the page's programs are told who joined.
  if (form.dataset.askboxAddress === 'told')
    form.addEventListener('askbox:joined', ({ detail }: CustomEventInit) => {
      detail.address = form.querySelector<HTMLInputElement>('input[type=email]')?.value.trim()
    })
  let timer = 0
  const see = () => {
    if (!tellsSeen) return
    tellsSeen = false
    clearTimeout(timer)
    document.removeEventListener('visibilitychange', look)
    watching.disconnect()
    if (counted && countsSeen) counted.isSeen = true
    say('seen')
  }
  const begun = () => {
    for (const type of ['input', 'pointerdown']) form.removeEventListener(type, begun)
    // Whoever begins has seen it.
    see()
    if (counted) counted.isStarted = true
    say('started')
  }
  for (const type of ['input', 'pointerdown']) form.addEventListener(type, begun)
  if (!tellsSeen) return
  const watching = new IntersectionObserver(
    ([entry]) => {
      clearTimeout(timer)
      // Half of it, or where it is higher than the window, half of that.
      const { intersectionRatio = 0, intersectionRect } = entry ?? {}
      if (intersectionRatio < LEAST_PART && (intersectionRect?.height ?? 0) < innerHeight * LEAST_PART) return
      // Nobody looks at a page behind others; it is watched anew when it comes to the front.
      timer = window.setTimeout(() => document.hidden || see(), SEEN_MS)
    },
    { threshold: [0, 0.125, 0.25, 0.375, LEAST_PART] },
  )
  const look = () => {
    watching.disconnect()
    if (!document.hidden) watching.observe(form)
  }
  document.addEventListener('visibilitychange', look)
  look()
}

/** What is new since it was told last: a page may be looked away from, and gone on with. */
function send(): void {
  const fresh = forms
    .map(({ spot, view, isSeen, isStarted, told }) => ({
      ...{ spot, view },
      isSeen: isSeen && !told.isSeen,
      isStarted: isStarted && !told.isStarted,
    }))
    .filter(({ isSeen, isStarted }) => isSeen || isStarted)
    .slice(0, 20)
  if (fresh.length === 0) return
  for (const form of forms) form.told = { isSeen: form.isSeen, isStarted: form.isStarted }
  navigator.sendBeacon(
    `${base}seen/${fresh[0]!.spot}`,
    JSON.stringify({
      forms: fresh,
      width: innerWidth,
      cameFrom,
    }),
  )
}
