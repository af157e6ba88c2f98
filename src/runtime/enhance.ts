import type { AnswerCase, Field } from '#core/form'
import type { FormSettings } from '#core/render'
import { fetched, PATIENCE_MS } from './fetched'
import { element, keepRoom } from './nodes'
import type * as AgainModule from './again'
import type * as PuzzleModule from './puzzle'
import type * as SeenModule from './seen'
import type * as SpellingModule from './spelling'
import { controlNames, fieldErrors, isAsked, type PostedValues } from '../core/signup/rules'

/** What the receiver answers: how it went, or what is wrong, or what is to be solved first. */
interface Body {
  outcome?: AnswerCase
  /** What the contract names no outcome of its own for. */
  case?: AnswerCase
  /** The owner's page to go to. */
  address?: string
  /** Names who just signed up, for sending the mail again. */
  again?: string
  /** The mail was held back; `address` is where that is said. */
  held?: boolean
  errors?: { field: string; message: string }[]
  puzzle?: Parameters<typeof PuzzleModule.solve>[0]
}

/** What moves so soon after a press is seen as done by it: Layout Instability, `hadRecentInput`. */
const PRESS_MS = 500

/**
 * Makes one plain form check answers beside their fields, show one step at a time, and answer in place. The
 * rules are those of the receiver, so the two never disagree.
 *
 * @param isInPlace whether it stands on a site's page, which then goes with the answers
 * @param onJoined called when it was answered
 */
export function enhance(
  form: HTMLFormElement,
  settings: FormSettings,
  { isInPlace = false, onJoined = () => {} } = {},
): void {
  const { fields, texts, answers, again } = settings
  const at = form.action.lastIndexOf('/join/')
  const base = form.action.slice(0, at + 1)
  const spot = form.action.slice(at + 6)
  const card = form.closest<HTMLElement>('[class*=askbox-at-]') ?? form
  const scope = card.className.match(/askbox-at-\w+/)?.[0] ?? 'askbox'
  const button = form.querySelector<HTMLButtonElement>('.askbox-button')
  const steps = [...form.querySelectorAll<HTMLElement>('.askbox-step')]
  const begun = Date.now()
  let current = 0
  let pressedAt = 0
  if (button === null) return
  // Our own checks take the place of the browser's, which cannot use the owner's words.
  form.noValidate = true
  fillFromAddress()

  form.addEventListener('submit', (event) => {
    event.preventDefault()
    const step = steps.length > 0 && current < steps.length - 1 ? current : null
    if (step === null) void send()
    else forward(step)
  })
  form.addEventListener('change', ({ target }) => {
    const input = target as HTMLInputElement
    if (input.type === 'email')
      void fetched<typeof SpellingModule>(base, 'spelling').then((spelling) => spelling?.ask(input, texts.didYouMean))
    for (const field of fields) if (!isAsked(field, fields, values())) show(field, '')
  })
  form.addEventListener('input', ({ target }) => {
    const field = fields.find((one) => controlNames(one).includes((target as HTMLInputElement).name))
    if (field && !errors().some((one) => one.field === field.key)) show(field, '')
  })
  if (steps.length > 0) prepareSteps()
  void fetched<typeof SeenModule>(base, 'seen').then((seen) => seen?.watch(form, isInPlace))

  function values(): PostedValues {
    return Object.fromEntries([...new FormData(form)].map(([name, value]) => [name, String(value)]))
  }

  function prepareSteps(): void {
    for (const [at, step] of steps.entries()) {
      const row = element('div', { class: 'askbox-row askbox-turns', style: 'margin-top:.75em' })
      if (at > 0) row.append(turn(texts.back, () => open(at - 1)))
      if (at < steps.length - 1) row.append(turn(texts.next, () => forward(at)))
      step.append(row)
    }
    open(0, false)
  }

  function turn(words: string, act: () => void): HTMLElement {
    const button = element('button', { type: 'button', class: 'askbox-button' }, words)
    button.addEventListener('click', act)
    return button
  }

  function forward(at: number): void {
    const wrong = errors().filter(({ field }) => stepOf(field) === at)
    report(wrong)
    if (wrong.length === 0) open(at + 1)
  }

  function open(at: number, isFocused = true): void {
    current = at
    for (const [index, step] of steps.entries()) step.hidden = index !== at
    for (const step of steps) step.style.display = step.hidden ? 'none' : ''
    if (isFocused) firstControl(steps[at]!)?.focus()
  }

  function stepOf(key: string): number {
    return steps.findIndex((step) => step.querySelector(`.askbox-field-${key}`) !== null)
  }

  function errors() {
    return fieldErrors(fields, values(), texts)
  }

  /** Each message beside its field and tied to it; the first wrong one gets the focus. */
  function report(wrong: { field: string; message: string }[]): void {
    const before = button!.getBoundingClientRect().top
    for (const field of fields) show(field, wrong.find((one) => one.field === field.key)?.message ?? '')
    // The button stays under the hand, in a pop-up too.
    ;(card.closest('.over') ?? window).scrollBy({
      top: button!.getBoundingClientRect().top - before,
      behavior: 'instant',
    })
    const first = wrong[0]
    if (first === undefined) return
    if (steps.length > 0 && stepOf(first.field) !== current && stepOf(first.field) >= 0)
      open(stepOf(first.field), false)
    firstControl(form.querySelector(`.askbox-field-${first.field}`))?.focus()
  }

  function show(field: Field, message: string): void {
    const around = form.querySelector(`.askbox-field-${field.key}`)
    if (around === null) return
    const id = `${scope}-${field.key}-error`
    around.querySelector('.askbox-error')?.remove()
    for (const name of controlNames(field)) {
      for (const control of form.querySelectorAll(`[name="${name}"]`)) {
        set(control, 'aria-invalid', message && 'true')
        const others = (control.getAttribute('aria-describedby') ?? '').split(' ').filter((other) => other !== id)
        set(control, 'aria-describedby', [...others, message && id].join(' ').trim())
      }
    }
    if (message === '') return
    around.append(element('span', { class: 'askbox-error', id }, message))
  }

  async function send(): Promise<void> {
    const wrong = errors()
    report(wrong)
    if (wrong.length > 0) return
    const words = button!.textContent
    button!.disabled = true
    button!.textContent = texts.sending
    pressedAt = Date.now()
    const policy = watchPolicy()
    try {
      let [response, body] = await post()
      if (body.puzzle) {
        const solved = await (await fetched<typeof PuzzleModule>(base, 'puzzle'))?.solve(body.puzzle)
        // What cannot be solved here is solved on a page of the receiver's.
        if (!solved) return HTMLFormElement.prototype.submit.call(form)
        ;[response, body] = await post({ 'askbox-puzzle': solved })
      }
      if (response.ok && body.outcome) return answer(body)
      const fieldErrors = (body.errors ?? []).filter(({ field }) => fields.some(({ key }) => key === field))
      report(fieldErrors)
      if (fieldErrors.length === 0) tell(response.status === 410 ? texts.closed : texts.notSent)
    } catch {
      // Nothing typed is lost: it is sent again at the next press, or by the browser itself where scripts may not send.
      if (await policy.forbids()) {
        console.warn('connect-src: sent as a page.')
        HTMLFormElement.prototype.submit.call(form)
      } else tell(texts.notSent)
    }
    button!.disabled = false
    button!.textContent = words
  }

  async function post(more: Record<string, string> = {}): Promise<[Response, Body]> {
    const response = await fetch(form.action, {
      method: 'POST',
      headers: { Accept: 'application/json' },
      signal: AbortSignal.timeout(PATIENCE_MS),
      body: new URLSearchParams({
        ...values(),
        'askbox-seconds': `${(Date.now() - begun) / 1e3}`,
        ...(isInPlace && whence()),
        ...more,
      }),
    })
    return [response, (await response.json()) as Body]
  }

  /** Goes where the owner published, or shows the owner's words in the form's place. */
  function answer(body: Body): void {
    onJoined()
    const detail = { spot, outcome: body.outcome }
    form.dispatchEvent(new CustomEvent('askbox:joined', { bubbles: true, composed: true, detail }))
    // A page may have been saved with fewer answers, and without the button.
    const { show, heading, message, address } = (answers[body.case!] ?? answers[body.outcome!])!
    const own = body.address ?? address.trim()
    if ((body.held || show === 'address') && /^https?:\/\//.test(own)) return location.assign(own)
    const place = ((form.getRootNode() as ShadowRoot).host as HTMLElement | undefined) ?? card
    const before = place.getBoundingClientRect()
    for (const child of [...form.children]) if (!/^(style|script)$/i.test(child.tagName)) child.remove()
    const result = element(
      'div',
      { class: 'askbox-result', role: 'status', tabindex: '-1' },
      element('h2', { class: 'askbox-heading' }, heading),
      element('p', { style: 'white-space:pre-line' }, message),
    )
    if (body.again && again)
      void fetched<typeof AgainModule>(base, 'again').then((module) => {
        if (module === null) return
        const button = element('button', { type: 'button', class: 'askbox-button' }, again.press)
        result.append(button)
        module.offer(button, again, `${base}resend/${spot}`, body.again!, () => tell(texts.notSent, button))
      })
    form.append(result)
    keepRoom(place)
    // The place shrinks to the answer. What comes after it stays where it is read: where its beginning is out of sight,
    // and otherwise until the visitor goes on, unless this is still what the press did.
    const { top, bottom, height } = before
    if (top < 0) scrollBy({ top: place.getBoundingClientRect().bottom - bottom, behavior: 'instant' })
    else if (bottom < innerHeight && Date.now() - pressedAt > PRESS_MS) {
      keepRoom(place, height)
      for (const type of ['pointerdown', 'keydown', 'wheel', 'touchmove'])
        addEventListener(type, () => keepRoom(place), { once: true, passive: true })
    }
    result.focus({ preventScroll: top < 0 })
  }

  function tell(message: string, below: Element = button!): void {
    const trouble = form.querySelector('.askbox-trouble') ?? document.createElement('p')
    trouble.className = 'askbox-trouble askbox-error'
    trouble.setAttribute('role', 'alert')
    trouble.textContent = message
    below.after(trouble)
  }

  /** Hidden values that the page's address carries. */
  function fillFromAddress(): void {
    const carried = new URLSearchParams(location.search)
    for (const input of form.querySelectorAll<HTMLInputElement>('input[data-askbox-from]')) {
      // Neither NUL nor half a character can be kept, and nobody could mend what is not seen.
      if (input.value === '')
        input.value = (carried.get(input.dataset.askboxFrom ?? '') ?? '')
          .slice(0, 200)
          .replace(/\0|[\ud800-\udbff]$/g, '')
    }
  }
}

/** An empty value takes the attribute away. */
function set(control: Element, name: string, value: string): void {
  if (value) control.setAttribute(name, value)
  else control.removeAttribute(name)
}

function firstControl(within: Element | null): HTMLElement | null {
  return within?.querySelector<HTMLElement>('input, select, textarea') ?? null
}

/** The page, and what brought the visitor to it: from where, and the words that campaigns put into addresses (common practice). */
function whence(): Record<string, string> {
  const carried = new URLSearchParams(location.search)
  const words = ['source', 'medium', 'campaign', 'term', 'content'].map((word) => carried.get(`utm_${word}`))
  const known = {
    'askbox-page': location.href.split('#')[0]!,
    'askbox-zone': Intl.DateTimeFormat().resolvedOptions().timeZone,
    'askbox-referrer': document.referrer.startsWith(`${location.origin}/`) ? '' : document.referrer,
    'askbox-campaign': words.filter(Boolean).join(', '),
  }
  return Object.fromEntries(Object.entries(known).filter(([, value]) => value !== ''))
}

/** Whether the page's content policy kept something from being sent since now. Browsers tell of it a moment later. */
function watchPolicy(): { forbids(): Promise<boolean> } {
  let isForbidden = false
  document.addEventListener('securitypolicyviolation', ({ effectiveDirective }) => {
    if (effectiveDirective === 'connect-src') isForbidden = true
  })
  return { forbids: () => new Promise((resolve) => setTimeout(() => resolve(isForbidden), 50)) }
}
