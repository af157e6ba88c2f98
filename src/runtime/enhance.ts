import type { Field } from '#core/form'
import type { FormSettings } from '#core/render'
import { fetched } from './fetched'
import { element } from './nodes'
import type * as RestoreModule from './restore'
import type * as SeenModule from './seen'
import type * as SendingModule from './sending'
import type * as SpellingModule from './spelling'
import { tidyAddress } from '../core/email/typed'
import { cameFrom } from '../core/signup/came-from'
import { controlNames, fieldErrors, isAsked, type PostedValues } from '../core/signup/rules'

/** Forms that are made better already, whatever brought them: pressed once, each is sent once. */
const enhanced = new WeakSet<HTMLFormElement>()

/**
 * Makes one plain form check answers beside their fields, show one step at a time, and answer in place. The
 * rules are those of the receiver, so the two never disagree.
 *
 * @param isInPlace whether it stands on a site's page, which then goes with the answers
 * @param view the note of this view, which goes along too
 * @param onJoined called when it was answered
 */
export function enhance(
  form: HTMLFormElement,
  settings: FormSettings,
  {
    isInPlace = false,
    view = null,
    onJoined = () => {},
  }: { isInPlace?: boolean; view?: string | null; onJoined?(): void } = {},
): void {
  const { fields, texts } = settings
  const at = form.action.lastIndexOf('/join/')
  const base = form.action.slice(0, at + 1)
  const spot = form.action.slice(at + 6)
  const card = form.closest<HTMLElement>('[class*=askbox-at-]') ?? form
  const scope = card.className.match(/askbox-at-\w+/)?.[0] ?? 'askbox'
  const button = form.querySelector<HTMLButtonElement>('.askbox-button')
  const steps = [...form.querySelectorAll<HTMLElement>('.askbox-step')]
  const begun = Date.now()
  let current = 0
  if (button === null || enhanced.has(form)) return
  enhanced.add(form)
  // Our own checks take the place of the browser's, which cannot use the owner's words.
  form.noValidate = true
  for (const [name, value] of Object.entries({ view, ...(isInPlace && cameFrom(location.href, document.referrer)) }))
    if (value) form.append(element('input', { type: 'hidden', name: `askbox-${name}`, value }))
  fillFromAddress()

  form.addEventListener('submit', (event) => {
    event.preventDefault()
    const step = steps.length > 0 && current < steps.length - 1 ? current : null
    if (step === null) void send()
    else forward(step)
  })
  form.addEventListener('change', ({ target }) => {
    const input = target as HTMLInputElement
    if (input.type === 'email') {
      const tidy = tidyAddress(input.value)
      if (tidy !== input.value.trim()) input.value = tidy
      void fetched<typeof SpellingModule>(base, 'spelling').then((spelling) => spelling?.ask(input, texts.didYouMean))
    }
    for (const field of fields) if (!isAsked(field, fields, values())) show(field, '')
  })
  form.addEventListener('input', ({ target }) => {
    const field = fields.find((one) => controlNames(one).includes((target as HTMLInputElement).name))
    if (field && !errors().some((one) => one.field === field.key)) show(field, '')
  })
  const begin = () =>
    void fetched<typeof SendingModule>(base, 'sending').then((sending) => sending?.begin(form, spot, values))
  // Somebody may be quicker than this script.
  if (form.matches(':focus-within')) begin()
  else form.addEventListener('focusin', begin, { once: true })
  const [{ type }] = performance.getEntriesByType('navigation') as [PerformanceNavigationTiming]
  if (isInPlace && /^(reload|back)/.test(type))
    void fetched<typeof RestoreModule>(base, 'restore').then((restoring) => restoring?.restore(form, spot))
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

  /** What sends and answers is fetched when somebody begins: most who see a form never do. */
  async function send(): Promise<void> {
    const wrong = errors()
    report(wrong)
    if (wrong.length > 0) return
    const words = button!.textContent
    button!.disabled = true
    button!.textContent = texts.sending
    const pressedAt = Date.now()
    const sending = await fetched<typeof SendingModule>(base, 'sending')
    // Without it, it is sent as the plain form that it is.
    if (sending === null && navigator.onLine) return HTMLFormElement.prototype.submit.call(form)
    if (sending === null && !form.querySelector('.askbox-trouble'))
      button!.after(element('p', { class: 'askbox-trouble askbox-error', role: 'alert' }, texts.notSent))
    const isAnswered = await sending?.send({
      ...{ form, settings, base, spot, card, button: button!, begun, pressedAt, isInPlace, onJoined, values, report },
    })
    if (isAnswered) return
    button!.disabled = false
    button!.textContent = words
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
