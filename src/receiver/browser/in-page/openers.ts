/*
 * What can be pressed to open or to close something. Each function is carried into the page as text, so it uses nothing from outside itself.
 */

/** Of the element that lies over something: its outermost that floats over the page. */
export function closersOver(element: Element): string[] {
  const box = element.getBoundingClientRect()
  const root = element.getRootNode() as Document | ShadowRoot
  const within = (at: number, most: number) => Math.max(0, Math.min(at, most - 1))
  let over = root.elementFromPoint(
    within(box.left + box.width / 2, innerWidth),
    within(box.top + box.height / 2, innerHeight),
  )
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

/** A press that may make the form come, with what stands on it. */
export interface Opener {
  selector: string
  label: string
  /** Whether it may have to be pressed again, as what turns slides on. */
  isStep: boolean
}

/**
 * What can be pressed and is labelled, the likeliest first: what names something around the form, what is near it, what says
 * what the form says.
 *
 * @param form where it is known and cannot be seen
 * @param words of the form's own: its heading, its button; `isFirst` where nothing was pressed for this yet
 */
export function openersOf(
  root: Element,
  { words, most, isFirst }: { words: readonly string[]; most: number; isFirst: boolean },
): Opener[] {
  for (const one of document.querySelectorAll('[data-askbox-opener]')) one.removeAttribute('data-askbox-opener')
  if (isFirst)
    for (const one of document.querySelectorAll('[data-askbox-pressed]')) one.removeAttribute('data-askbox-pressed')
  // Nothing of the form itself opens it.
  const form = root === document.documentElement ? null : (root.closest('form') ?? root)
  const near: Element[] = []
  for (let at: Element | null = form; at !== null && at !== document.body; at = at.parentElement) near.push(at)
  const ids = new Set(near.map(({ id }) => id).filter((id) => id !== ''))
  const boxes = new Set(
    near.flatMap((one) => {
      const before: string[] = []
      for (let at = one.previousElementSibling; at !== null; at = at.previousElementSibling)
        if (at.matches('input[type=checkbox], input[type=radio]') && at.id !== '') before.push(at.id)
      return before
    }),
  )
  const own = new Set(words.map((word) => word.trim().toLowerCase()).filter((word) => word.length > 2))
  const usual = /news|letter|sign.?up|subscri|join|e-?mail|abonn|inscri|anmeld|suscri|iscri|form/i
  const step = /next|more|open|show|read|continue|weiter|mehr|suivant|plus|siguiente|[›»→▸▾⌄+]/i
  const found: { element: Element; score: number; label: string; isStep: boolean }[] = []
  // Less has to do with the form by chance: a stranger's button is not pressed to see what comes.
  const leastScore = 15
  const all = [...document.querySelectorAll<HTMLElement>('body *')].slice(0, 4_000)
  for (const one of all) {
    // A fold without words of its own shows the browser's word, and is pressed there.
    const isBareFold = one.matches('details:not([open]):not(:has(> summary))')
    if (form !== null && (one.contains(form) || form.contains(one)) && !one.matches('summary') && !isBareFold) continue
    const isControl =
      isBareFold ||
      one.matches(
        'a[href], button, summary, label[for], [role=button], [role=tab], [role=link], [aria-controls], [popovertarget], [commandfor], [onclick], [tabindex], input[type=button]',
      )
    if (
      !isControl &&
      (getComputedStyle(one).cursor !== 'pointer' ||
        (one.parentElement !== null && getComputedStyle(one.parentElement).cursor === 'pointer'))
    )
      continue
    if (!one.checkVisibility({ visibilityProperty: true, opacityProperty: true })) continue
    const { width, height } = one.getBoundingClientRect()
    // What sends a form of the page opens nothing.
    const sends = one instanceof HTMLButtonElement && one.type === 'submit' && one.form !== null
    if (width < 4 || height < 4 || sends || one.matches(':disabled, [type=submit]')) continue
    const href = one.getAttribute('href')
    const leadsAway = href !== null && !href.startsWith('#') && !/^javascript:/i.test(href)
    const label = (
      isBareFold
        ? 'Details'
        : (one.getAttribute('aria-label') ?? one.textContent ?? one.getAttribute('value') ?? one.title ?? '')
    )
      .replace(/\s+/g, ' ')
      .trim()
      .slice(0, 60)
    const names = [
      one.getAttribute('aria-controls'),
      href?.startsWith('#') ? href.slice(1) : null,
      one.getAttribute('popovertarget'),
      one.getAttribute('commandfor'),
      one.getAttribute('for'),
      ...[...one.attributes].filter(({ name }) => name.startsWith('data-')).map(({ value }) => value.replace(/^#/, '')),
    ].filter((name) => name !== null && name !== '')
    let score = 0
    if (names.some((name) => ids.has(name!) || boxes.has(name!))) score += 100
    if (own.size > 0 && [...own].some((word) => label.toLowerCase().includes(word))) score += 40
    if (usual.test(label)) score += 20
    const isStep = step.test(`${label} ${one.className}`)
    // Pressed a moment ago: once more, it would close again.
    if (one.hasAttribute('data-askbox-pressed') && !isStep) continue
    if (isStep) score += 10
    if (form !== null) {
      const up = near.findIndex((at) => at.contains(one))
      score += up < 0 ? 0 : Math.round(30 / (up + 1))
    }
    if (isBareFold || one.matches('summary, [role=tab], [aria-expanded=false], [popovertarget], [onclick]')) score += 8
    const fold = one.matches('summary') ? one.parentElement : isBareFold ? one : null
    const isClosed = fold !== null && !(fold as HTMLDetailsElement).open
    if (isClosed) score += form === null ? 10 : fold.contains(form) ? 60 : 0
    if (leadsAway) score -= 60
    if (score >= leastScore) found.push({ element: one, score, label, isStep })
  }
  found.sort((one, other) => other.score - one.score)
  return found.slice(0, most).map(({ element, label, isStep }, at) => {
    element.setAttribute('data-askbox-opener', String(at))
    return { selector: `[data-askbox-opener="${at}"]`, label, isStep }
  })
}

/** Visible text of the page, to tell new text from old. */
export function wordsShown(): string[] {
  return [
    ...new Set(
      document.body.innerText
        .split('\n')
        .map((line) => line.trim())
        .filter((line) => line !== ''),
    ),
  ].slice(0, 3_000)
}
