/*
 * What a form is, and what came of sending it. Each function is carried into the page as text, so it uses nothing from outside itself.
 */

export interface PageFormFacts {
  width: number
  sticksOut: boolean
}

export function factsOf(form: Element): PageFormFacts {
  const { left, right, width } = form.getBoundingClientRect()
  return { width, sticksOut: width > 0 && (left < -1 || right > document.documentElement.clientWidth + 1) }
}

/** Listens for whether the form is sent, and whether something stops it. */
export function watchSubmit(form: Element): void {
  const seen = { isFired: false, isStopped: false }
  ;(window as unknown as { askboxSubmit?: typeof seen }).askboxSubmit = seen
  const root = form.getRootNode()
  const listen = (event: Event) => {
    seen.isFired = true
    setTimeout(() => (seen.isStopped = event.defaultPrevented))
  }
  window.addEventListener('submit', listen, true)
  // Within a tree of its own, events of forms do not come out.
  if (root instanceof ShadowRoot) root.addEventListener('submit', listen, true)
}

export interface AfterPress {
  isFired: boolean
  isStopped: boolean
  /** The first control that the browser's own checks refuse, and whether it is of the form as we made it. */
  invalid: { name: string; markup: string; message: string } | null
}

export function afterPress(form: HTMLFormElement): AfterPress {
  const { isFired, isStopped } = (window as unknown as { askboxSubmit?: { isFired: boolean; isStopped: boolean } })
    .askboxSubmit ?? { isFired: false, isStopped: false }
  const control = form.noValidate
    ? undefined
    : ([...form.elements] as HTMLInputElement[]).find((one) => one.willValidate && !one.validity.valid)
  return {
    isFired,
    isStopped,
    invalid:
      control === undefined
        ? null
        : {
            name: control.name || control.id,
            markup: control.outerHTML.slice(0, 500),
            message: control.validationMessage,
          },
  }
}

export interface InPlace {
  heading: string
  message: string
  errors: Record<string, string>
  kind: 'result' | 'trouble' | 'errors' | 'none'
}

/** What the visitors' script says in the form's place or beside its fields. */
export function inPlaceOf(form: Element): InPlace {
  const textOf = (element: Element | null) => (element?.textContent ?? '').replace(/\s+/g, ' ').trim()
  const result = form.querySelector('.askbox-result')
  if (result !== null)
    return {
      kind: 'result',
      heading: textOf(result.querySelector('h2')),
      message: textOf(result.querySelector('p')),
      errors: {},
    }
  const trouble = form.querySelector('.askbox-trouble')
  if (trouble !== null) return { kind: 'trouble', heading: '', message: textOf(trouble), errors: {} }
  const errors = [...form.querySelectorAll('.askbox-error')].map((error): [string, string] => [
    /askbox-field-([a-z0-9-]+)/.exec(error.closest('[class*="askbox-field-"]')?.className ?? '')?.[1] ?? '',
    textOf(error),
  ])
  return { kind: errors.length === 0 ? 'none' : 'errors', heading: '', message: '', errors: Object.fromEntries(errors) }
}
