import type { Shown } from '#core/proof'
import type { Fill } from '#core/rehearsal'
import { setControl } from '../core/usable/set-control'

/*
 * Fetched by the visitors' script for a rehearsal alone, in a frame of the workshop: `#askbox-rehearsal-CODE` at the end of
 * the page's address. It opens a channel to whoever holds the page in a frame and knows the code, and only while the
 * receiver says that such a rehearsal goes on; by it, the form is filled in and its button pressed.
 */

interface Wish {
  spot: string
  fills: readonly Fill[] | null
  presses: 1 | 2
}
interface Seen {
  isThere: boolean
  width: number
  sticksOut: boolean
  shown: Shown | null
}

const FORM_MS = 5_000
const ANSWER_MS = 8_000
/** How long a pop-up that must not come is waited for, once the page has loaded. */
const ABSENT_MS = 1_200

// Where this script was fetched; resolved there, not where it is built.
const base = new URL(/* @vite-ignore */ '.', import.meta.url).href
const code = location.hash.slice('#askbox-rehearsal-'.length)
if (parent !== window && (await isGoing())) {
  addEventListener('message', ({ source, data, ports: [port] }) => {
    if (source !== parent || data?.askbox !== code || port === undefined) return
    port.onmessage = async ({ data: wish }: MessageEvent<Wish>) => port.postMessage(await carryOut(wish))
  })
  parent.postMessage({ askbox: code }, '*')
}

async function isGoing(): Promise<boolean> {
  if (!/^[a-z0-9]+$/.test(code)) return false
  const answer = await fetch(`${base}rehearsal/${code}`, { credentials: 'omit' }).catch(() => null)
  return answer?.ok ?? false
}

async function carryOut({ spot, fills, presses }: Wish): Promise<Seen> {
  const form = await until(() => formOf(spot), fills === null ? ABSENT_MS : FORM_MS)
  if (form === null) return { isThere: false, width: 0, sticksOut: false, shown: null }
  const { width, left, right } = form.getBoundingClientRect()
  const seen = {
    isThere: form.checkVisibility({ opacityProperty: true, visibilityProperty: true }) && width > 0,
    width,
    sticksOut: left < -1 || right > document.documentElement.clientWidth + 1,
  }
  if (fills === null) return { ...seen, shown: null }
  for (const fill of fills) fillIn(form, fill)
  return { ...seen, shown: await send(form, presses) }
}

/** Of the script's own, or a plain form that it made better. */
function formOf(spot: string): HTMLFormElement | null {
  const hosts = [...document.querySelectorAll('askbox-form')].map((host) => host.shadowRoot ?? host)
  return (
    [document, ...hosts]
      .flatMap((root) => [...root.querySelectorAll<HTMLFormElement>('form.askbox')])
      .find((form) => form.action === `${base}join/${spot}` && form.noValidate) ?? null
  )
}

function fillIn(form: HTMLFormElement, { name, value }: Fill): void {
  for (const control of form.querySelectorAll<HTMLInputElement>(`[name="${CSS.escape(name)}"]`)) {
    setControl(control, value)
    for (const type of ['input', 'change']) control.dispatchEvent(new Event(type, { bubbles: true }))
  }
}

/** Presses on to the last step, then the button, and waits for what visitors are shown. */
async function send(form: HTMLFormElement, presses: 1 | 2): Promise<Shown | null> {
  let leadsTo = ''
  // Where the answer is a page of its owner's, the frame stays, so that it can be told.
  const navigation = (window as unknown as { navigation?: EventTarget }).navigation
  navigation?.addEventListener('navigate', (event) => {
    leadsTo = (event as unknown as { destination: { url: string } }).destination.url
    event.preventDefault()
  })
  const steps = [...form.querySelectorAll<HTMLElement>('.askbox-step')]
  for (const step of steps.slice(0, -1)) {
    const next = [...step.querySelectorAll<HTMLElement>('.askbox-turns button')].at(-1)
    if (!step.hidden) next?.click()
    if (errorsIn(form) !== null) return shown({ errors: errorsIn(form)! })
  }
  const button = form.querySelector<HTMLButtonElement>('.askbox-button[type="submit"]')
  for (let count = 0; count < presses; count++) button?.click()
  return until(() => {
    if (leadsTo !== '') return shown({ address: leadsTo })
    const result = form.querySelector('.askbox-result')
    if (result !== null)
      return shown({ heading: textOf(result.querySelector('h2')), message: textOf(result.querySelector('p')) })
    const trouble = form.querySelector('.askbox-trouble')
    if (trouble !== null) return shown({ message: textOf(trouble) })
    const errors = errorsIn(form)
    return errors === null ? null : shown({ errors })
  }, ANSWER_MS)
}

function errorsIn(form: HTMLFormElement): Record<string, string> | null {
  const errors = [...form.querySelectorAll('.askbox-error:not(.askbox-trouble)')].map((error): [string, string] => [
    /askbox-field-([a-z0-9-]+)/.exec(error.closest('[class*="askbox-field-"]')?.className ?? '')?.[1] ?? '',
    textOf(error),
  ])
  return errors.length === 0 ? null : Object.fromEntries(errors)
}

function shown(parts: Partial<Shown>): Shown {
  return { status: 0, address: location.href, heading: '', message: '', errors: {}, kept: {}, ...parts }
}

function textOf(element: Element | null): string {
  return (element?.textContent ?? '').replace(/\s+/g, ' ').trim()
}

/** What comes of looking again and again; null when the time is over. */
async function until<T>(look: () => T | null, ms: number): Promise<T | null> {
  for (const end = performance.now() + ms; ; await new Promise((resolve) => setTimeout(resolve, 20))) {
    const found = look()
    if (found !== null || performance.now() > end) return found
  }
}
