/*
 * What is looked at within a page. Each function is carried into the page as text, so it uses nothing from outside itself.
 */

export interface Sight {
  isSeen: boolean
  /** Why not: the element that hides it or lies over it, in a few words. */
  by: string
  how: 'hidden' | 'covered' | ''
  markup: string
}

/** Whether a visitor can see and reach an element, after it was scrolled to. */
export function sightOf(element: Element): Sight {
  const tag = (one: Element) => {
    const [opening] = /^<[^>]{0,300}>?/.exec((one.cloneNode(false) as Element).outerHTML) ?? ['']
    return opening
  }
  const above = (one: Element): Element | null => {
    const root = one.getRootNode()
    return one.assignedSlot ?? one.parentElement ?? (root instanceof ShadowRoot ? root.host : null)
  }
  const not = (how: 'hidden' | 'covered', by: Element, why: string): Sight => ({
    isSeen: false,
    how,
    by: `${tag(by)}${why}`,
    markup: by.outerHTML.slice(0, 1_500),
  })
  if (!element.isConnected) return { isSeen: false, how: 'hidden', by: 'it was taken away', markup: '' }
  element.scrollIntoView({ block: 'center', inline: 'center', behavior: 'instant' })
  for (let at: Element | null = element; at !== null; at = above(at)) {
    const { display, visibility, opacity, contentVisibility } = getComputedStyle(at)
    if (display === 'none') return not('hidden', at, ' has display: none')
    if (Number(opacity) < 0.05) return not('hidden', at, ` has opacity: ${opacity}`)
    if (at === element && visibility !== 'visible') {
      // The outermost that says it.
      let by: Element = at
      for (let up = above(at); up !== null && getComputedStyle(up).visibility !== 'visible'; up = above(up)) by = up
      return not('hidden', by, ` has visibility: ${visibility}`)
    }
    if (at !== element && contentVisibility === 'hidden') return not('hidden', at, ' has content-visibility: hidden')
  }
  const box = element.getBoundingClientRect()
  if (box.width < 2 || box.height < 2) return not('hidden', element, ' is without size')
  // What is left of it within everything that cuts off.
  let [left, top, right, bottom] = [box.left, box.top, box.right, box.bottom]
  for (
    let at = above(element);
    at !== null && at !== document.documentElement && at !== document.body;
    at = above(at)
  ) {
    const style = getComputedStyle(at)
    const round = at.getBoundingClientRect()
    if (style.overflowX !== 'visible' || style.clip !== 'auto' || style.clipPath !== 'none')
      [left, right] = [Math.max(left, round.left), Math.min(right, round.right)]
    if (style.overflowY !== 'visible' || style.clip !== 'auto' || style.clipPath !== 'none')
      [top, bottom] = [Math.max(top, round.top), Math.min(bottom, round.bottom)]
    if (right - left < 2 || bottom - top < 2) return not('hidden', at, ' shows nothing of it: it is cut off')
  }
  if (left + scrollX + (right - left) < 2 || top + scrollY + (bottom - top) < 2)
    return not('hidden', element, ' stands outside of the page')
  const root = element.getRootNode() as Document | ShadowRoot
  // The middle, then what is beside it: a rounded corner or a line of text may not be hit.
  const spots = [
    [0.5, 0.5],
    [0.25, 0.5],
    [0.75, 0.5],
    [0.5, 0.25],
    [0.5, 0.75],
  ] as const
  let over: Element | null = null
  for (const [across, down] of spots) {
    const x = Math.min(Math.max(left, 0) + (Math.min(right, innerWidth) - Math.max(left, 0)) * across, innerWidth - 1)
    const y = Math.min(Math.max(top, 0) + (Math.min(bottom, innerHeight) - Math.max(top, 0)) * down, innerHeight - 1)
    const at = root.elementFromPoint(x, y)
    if (at === null) continue
    const label = at.closest('label')
    if (
      element.contains(at) ||
      at === element ||
      (label !== null && label.control === element) ||
      at.shadowRoot?.contains(element)
    )
      return { isSeen: true, how: '', by: '', markup: '' }
    over ??= at
  }
  if (over === null) return not('hidden', element, ' stands outside of the window')
  // Around it, the element that is hit stands for itself where it takes no presses of its own.
  if (over.contains(element) && getComputedStyle(element).pointerEvents !== 'none')
    return not('hidden', over, ' shows nothing of it')
  return not('covered', over, over.contains(element) ? ' takes its presses' : ' lies over it')
}

/** Of the element that lies over something: its outermost that floats over the page. */
export function closersOver(element: Element): string[] {
  const box = element.getBoundingClientRect()
  const root = element.getRootNode() as Document | ShadowRoot
  let over = root.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2)
  let floating: Element | null = null
  for (; over !== null && !over.contains(element); over = over.parentElement)
    if (['fixed', 'absolute', 'sticky'].includes(getComputedStyle(over).position) || over instanceof HTMLDialogElement)
      floating = over
  if (floating === null) return []
  const buttons = [
    ...floating.querySelectorAll<HTMLElement>('button, [role="button"], input[type="button"], a[href="#"]'),
  ]
  return buttons.slice(0, 4).map((button, at) => {
    button.setAttribute('data-askbox-closer', String(at))
    return `[data-askbox-closer="${at}"]`
  })
}

/** What a press would open so that an element can be seen: a closed `details`, or what names one of its ancestors. */
export function openerOf(element: Element): string | null {
  for (let at: Element | null = element; at !== null; at = at.parentElement) {
    let opener: Element | null = null
    if (at instanceof HTMLDetailsElement && !at.open) opener = at.querySelector(':scope > summary') ?? at
    else if (at.id !== '') {
      const id = CSS.escape(at.id)
      opener = document.querySelector(
        `[aria-controls~="${id}"][aria-expanded="false"], [aria-controls~="${id}"]:not([aria-expanded]), a[href="#${id}"][role="button"]`,
      )
    }
    if (opener === null || opener.contains(element)) continue
    opener.setAttribute('data-askbox-opener', '')
    return '[data-askbox-opener]'
  }
  return null
}

export interface FormFacts {
  width: number
  sticksOut: boolean
}

export function factsOf(form: Element): FormFacts {
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
