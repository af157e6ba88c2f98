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

/** What the page's styles alone say: whether an element is drawn at all. */
export function shownOf(element: Element): Sight {
  const tag = (one: Element) => {
    const [opening] = /^<[^>]{0,300}>?/.exec((one.cloneNode(false) as Element).outerHTML) ?? ['']
    return opening
  }
  const above = (one: Element): Element | null => {
    const root = one.getRootNode()
    return one.assignedSlot ?? one.parentElement ?? (root instanceof ShadowRoot ? root.host : null)
  }
  const not = (by: Element, why: string): Sight => ({
    isSeen: false,
    how: 'hidden',
    by: `${tag(by)}${why}`,
    markup: by.outerHTML.slice(0, 1_500),
  })
  if (!element.isConnected) return { isSeen: false, how: 'hidden', by: 'it was taken away', markup: '' }
  for (let at: Element | null = element; at !== null; at = above(at)) {
    const { display, visibility, opacity, contentVisibility } = getComputedStyle(at)
    if (display === 'none') return not(at, ' has display: none')
    if (Number(opacity) < 0.05) return not(at, ` has opacity: ${opacity}`)
    if (at === element && visibility !== 'visible') {
      // The outermost that says it.
      let by: Element = at
      for (let up = above(at); up !== null && getComputedStyle(up).visibility !== 'visible'; up = above(up)) by = up
      return not(by, ` has visibility: ${visibility}`)
    }
    if (at !== element && contentVisibility === 'hidden') return not(at, ' has content-visibility: hidden')
  }
  const box = element.getBoundingClientRect()
  if (box.width < 2 || box.height < 2) return not(element, ' is without size')
  return { isSeen: true, how: '', by: '', markup: '' }
}

/** In CSS pixels of the window that an element is in. */
export interface Part {
  left: number
  top: number
  right: number
  bottom: number
}

export interface Where {
  /** The element itself, wherever it is. */
  box: Part
  /** What of it can be seen, within all that cuts it off; null for nothing, or too little to press. */
  visible: Part | null
  /** What has to be scrolled to see more of it: where the pointer has to be, how far it is, and how much room a finger has. */
  scroll: { x: number; y: number; dx: number; dy: number; room: { x: number; y: number } } | null
  /** What cuts it off, in a few words; empty for nothing but the window. */
  cutBy: string
  markup: string
}

/**
 * Where an element is, and what a wheel or a finger would have to move to bring it into sight. Nothing is scrolled here.
 *
 * @param part of it, from its own left upper corner, where not all of it is meant
 */
export function whereOf(element: Element, part: Part | null): Where {
  const above = (one: Element): Element | null => {
    const root = one.getRootNode()
    return one.assignedSlot ?? one.parentElement ?? (root instanceof ShadowRoot ? root.host : null)
  }
  const meet = (one: Part, other: Part): Part => ({
    left: Math.max(one.left, other.left),
    top: Math.max(one.top, other.top),
    right: Math.min(one.right, other.right),
    bottom: Math.min(one.bottom, other.bottom),
  })
  const isEmpty = ({ left, top, right, bottom }: Part) => right - left < 2 || bottom - top < 2
  const round = element.getBoundingClientRect()
  const box: Part =
    part === null
      ? { left: round.left, top: round.top, right: round.right, bottom: round.bottom }
      : {
          left: round.left + part.left,
          top: round.top + part.top,
          right: round.left + part.right,
          bottom: round.top + part.bottom,
        }
  const center = { x: (box.left + box.right) / 2, y: (box.top + box.bottom) / 2 }
  const holds = ({ left, top, right, bottom }: Part) =>
    center.x >= left && center.x <= right && center.y >= top && center.y <= bottom
  const screen: Part = { left: 0, top: 0, right: innerWidth, bottom: innerHeight }
  let visible = meet(box, screen)
  let cut: Element | null = null
  const scrollers: { element: Element; area: Part }[] = []
  let position = getComputedStyle(element).position
  for (let at = above(element); at !== null && at !== document.documentElement; at = above(at)) {
    const style = getComputedStyle(at)
    const isContaining = style.transform !== 'none' || style.filter !== 'none' || style.contain.includes('paint')
    // What is taken out of the flow is cut off by what it is placed in alone: CSS Positioned Layout, section 2.
    const isPassed =
      (position === 'fixed' && !isContaining) ||
      (position === 'absolute' && style.position === 'static' && !isContaining)
    if (isPassed) continue
    position = style.position
    // Of the body, the window has it: CSS Overflow, section 3.3.
    if (at === document.body && getComputedStyle(document.documentElement).overflow === 'visible') continue
    const isClipped = style.clip !== 'auto' || style.clipPath !== 'none'
    const edge = at.getBoundingClientRect()
    const area: Part = {
      left: style.overflowX !== 'visible' || isClipped ? edge.left + at.clientLeft : -1e6,
      top: style.overflowY !== 'visible' || isClipped ? edge.top + at.clientTop : -1e6,
      right: style.overflowX !== 'visible' || isClipped ? edge.right : 1e6,
      bottom: style.overflowY !== 'visible' || isClipped ? edge.bottom : 1e6,
    }
    if (!isEmpty(visible) && isEmpty(meet(visible, area))) cut ??= at
    visible = meet(visible, area)
    const scrolls =
      (/auto|scroll/.test(style.overflowX) && at.scrollWidth > at.clientWidth + 1) ||
      (/auto|scroll/.test(style.overflowY) && at.scrollHeight > at.clientHeight + 1)
    if (scrolls)
      scrollers.unshift({
        element: at,
        area: meet(area, { left: edge.left, top: edge.top, right: edge.right, bottom: edge.bottom }),
      })
    else if (isClipped || style.overflowX !== 'visible' || style.overflowY !== 'visible') if (!holds(area)) cut = at
  }
  const tag = (one: Element | null) =>
    one === null ? '' : (/^<[^>]{0,300}>?/.exec((one.cloneNode(false) as Element).outerHTML)?.[0] ?? '')
  const told = {
    box,
    cutBy: cut === null ? '' : `${tag(cut)} cuts it off`,
    markup: (cut ?? element).outerHTML.slice(0, 1_500),
  }
  const least = Math.min(box.bottom - box.top, 16)
  const isEnough =
    !isEmpty(visible) && visible.bottom - visible.top >= least && (holds(visible) || visible.bottom - visible.top > 40)
  if (isEnough) return { ...told, visible, scroll: null }
  // From the outermost: what stands in a box that is out of sight itself is not reached by scrolling the box.
  for (const { area } of scrollers) {
    const seen = meet(area, screen)
    if (isEmpty(seen)) break
    if (holds(area)) continue
    const middle = { x: (seen.left + seen.right) / 2, y: (seen.top + seen.bottom) / 2 }
    return {
      ...told,
      visible: null,
      scroll: {
        ...middle,
        dx: center.x - (area.left + area.right) / 2,
        dy: center.y - (area.top + area.bottom) / 2,
        room: { x: seen.right - seen.left, y: seen.bottom - seen.top },
      },
    }
  }
  const hidden = scrollers.find(({ area }) => isEmpty(meet(area, screen)))
  const goal =
    hidden === undefined
      ? center
      : { x: (hidden.area.left + hidden.area.right) / 2, y: (hidden.area.top + hidden.area.bottom) / 2 }
  // Where the wheel moves the page, and not a box or a frame that stands on it.
  const free = [
    [innerWidth / 2, innerHeight / 2],
    [innerWidth - 20, innerHeight / 2],
    [20, innerHeight / 2],
    [innerWidth - 20, innerHeight - 20],
    [20, 20],
  ].find(([x, y]) => {
    for (let at = document.elementFromPoint(x!, y!); at !== null; at = above(at)) {
      if (at.localName === 'iframe') return false
      if (
        at !== document.body &&
        at !== document.documentElement &&
        /auto|scroll/.test(getComputedStyle(at).overflowY) &&
        at.scrollHeight > at.clientHeight + 1
      )
        return false
    }
    return true
  })
  const [x, y] = free ?? [innerWidth / 2, innerHeight / 2]
  return {
    ...told,
    visible: null,
    scroll: {
      x: x!,
      y: y!,
      dx: goal.x < 0 || goal.x > innerWidth ? goal.x - innerWidth / 2 : 0,
      dy: goal.y - innerHeight / 2,
      room: { x: innerWidth, y: innerHeight },
    },
  }
}

/** How a frame's own window stands in the page around it: its left upper corner and its scale. */
export function frameIn(frame: Element): { left: number; top: number; scale: number } {
  const { left, top, width } = frame.getBoundingClientRect()
  const { offsetWidth, clientLeft, clientTop } = frame as HTMLElement
  const { paddingLeft, paddingTop } = getComputedStyle(frame)
  const scale = offsetWidth > 0 ? width / offsetWidth : 1
  return {
    left: left + (clientLeft + Number.parseFloat(paddingLeft)) * scale,
    top: top + (clientTop + Number.parseFloat(paddingTop)) * scale,
    scale,
  }
}

/**
 * Whether a press reaches an element, and where: in the middle of what is seen of it, or beside, as a rounded corner or a
 * line of text may not be hit.
 */
export function pressedAt(element: Element, visible: Part): Sight & { x: number; y: number } {
  const tag = (one: Element) => /^<[^>]{0,300}>?/.exec((one.cloneNode(false) as Element).outerHTML)?.[0] ?? ''
  const not = (how: 'hidden' | 'covered', by: Element, why: string) => ({
    isSeen: false,
    how,
    by: `${tag(by)}${why}`,
    markup: by.outerHTML.slice(0, 1_500),
    x: 0,
    y: 0,
  })
  const root = element.getRootNode() as Document | ShadowRoot
  const spots = [
    [0.5, 0.5],
    [0.25, 0.5],
    [0.75, 0.5],
    [0.5, 0.25],
    [0.5, 0.75],
  ] as const
  let over: Element | null = null
  for (const [across, down] of spots) {
    const x = Math.min(visible.left + (visible.right - visible.left) * across, innerWidth - 1)
    const y = Math.min(visible.top + (visible.bottom - visible.top) * down, innerHeight - 1)
    const at = root.elementFromPoint(x, y)
    if (at === null) continue
    const label = at.closest('label')
    if (
      element.contains(at) ||
      at === element ||
      (label !== null && label.control === element) ||
      at.shadowRoot?.contains(element)
    )
      return { isSeen: true, how: '', by: '', markup: '', x, y }
    over ??= at
  }
  if (over === null) return not('hidden', element, ' stands outside of the window')
  // Around it, the element that is hit stands for itself where it takes no presses of its own.
  if (over.contains(element) && getComputedStyle(element).pointerEvents !== 'none')
    return not('hidden', over, ' shows nothing of it')
  return not('covered', over, over.contains(element) ? ' takes its presses' : ' lies over it')
}

/** Takes an element, or its letters alone, out of the picture without moving anything; see `shownAgain`. */
export function unshown(element: Element, what: 'all' | 'letters'): void {
  const { style } = element as HTMLElement
  ;(element as unknown as { askboxStyle?: string | null }).askboxStyle ??= element.getAttribute('style') ?? ''
  style.setProperty('transition', 'none', 'important')
  if (what === 'all') style.setProperty('visibility', 'hidden', 'important')
  else
    for (const [name, value] of [
      ['color', 'transparent'],
      ['-webkit-text-fill-color', 'transparent'],
      ['-webkit-text-stroke-color', 'transparent'],
      ['text-shadow', 'none'],
      ['text-decoration-color', 'transparent'],
    ] as const)
      style.setProperty(name, value, 'important')
}

export function shownAgain(element: Element): void {
  const kept = element as unknown as { askboxStyle?: string | null }
  if (kept.askboxStyle === undefined || kept.askboxStyle === null) return
  // Not by the attribute, which a page's policy may forbid: CSP Level 3, section 6.7.3.
  ;(element as HTMLElement).style.cssText = kept.askboxStyle
  if (kept.askboxStyle === '') element.removeAttribute('style')
  delete kept.askboxStyle
}

/** Whether anything of the page moves by itself, as far as it tells. */
export function movesAround(element: Element): boolean {
  const { ownerDocument: page } = element
  return (
    page.getAnimations().some(({ playState }) => playState === 'running') ||
    page.querySelector('video, canvas, marquee, object, embed, iframe, img[src*=".gif"], animate, animateTransform') !==
      null
  )
}

/** The letters that an element shows of its own: what was typed in, or what a button says. */
export function lettersOf(element: Element): string {
  const control = element as HTMLInputElement
  const text = ['input', 'textarea'].includes(control.localName) ? control.value : (element.textContent ?? '')
  return text.trim()
}

/** What lets presses through and may lie over an element all the same, or what washes it out, in a few words. */
export function veilOver(element: Element): { by: string; markup: string } | null {
  const tag = (one: Element) => /^<[^>]{0,300}>?/.exec((one.cloneNode(false) as Element).outerHTML)?.[0] ?? ''
  const box = element.getBoundingClientRect()
  const [x, y] = [box.left + box.width / 2, box.top + box.height / 2]
  for (let at: Element | null = element; at !== null; at = at.parentElement) {
    const { filter, opacity, maskImage, mixBlendMode, clipPath } = getComputedStyle(at)
    const why =
      filter !== 'none'
        ? ` has filter: ${filter}`
        : Number(opacity) < 0.6
          ? ` has opacity: ${opacity}`
          : maskImage !== 'none'
            ? ' has a mask'
            : mixBlendMode !== 'normal'
              ? ` has mix-blend-mode: ${mixBlendMode}`
              : clipPath !== 'none'
                ? ` has clip-path: ${clipPath}`
                : ''
    if (why !== '') return { by: `${tag(at)}${why}`, markup: at.outerHTML.slice(0, 1_500) }
  }
  const through = [...document.querySelectorAll('body *')].slice(0, 5_000).filter((one) => {
    if (one.contains(element) || getComputedStyle(one).pointerEvents !== 'none') return false
    const round = one.getBoundingClientRect()
    return x > round.left && x < round.right && y > round.top && y < round.bottom
  })
  const last = through.at(-1)
  return last === undefined
    ? null
    : { by: `${tag(last)} lies over it and lets presses through`, markup: last.outerHTML.slice(0, 1_500) }
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
 * @param words of the form's own: its heading, its button
 */
export function openersOf(root: Element, { words, most }: { words: readonly string[]; most: number }): Opener[] {
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
    if (form !== null && (one.contains(form) || form.contains(one)) && !one.matches('summary')) continue
    const isControl = one.matches(
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
    const label = (one.getAttribute('aria-label') ?? one.textContent ?? one.getAttribute('value') ?? one.title ?? '')
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
    if (isStep) score += 10
    if (form !== null) {
      const up = near.findIndex((at) => at.contains(one))
      score += up < 0 ? 0 : Math.round(30 / (up + 1))
    }
    if (one.matches('summary, [role=tab], [aria-expanded=false], [popovertarget], [onclick]')) score += 8
    if (leadsAway) score -= 60
    if (score >= leastScore) found.push({ element: one, score, label, isStep })
  }
  found.sort((one, other) => other.score - one.score)
  return found.slice(0, most).map(({ element, label, isStep }, at) => {
    element.setAttribute('data-askbox-opener', String(at))
    return { selector: `[data-askbox-opener="${at}"]`, label, isStep }
  })
}

/** What is to be read on the page now, to tell what came anew. */
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
