/*
 * Where something is, and whether it can be seen and pressed. Each function is carried into the page as text, so it uses nothing from outside itself.
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
  // A fold that is shut hides its contents by a tree of the browser's own, and they keep their size.
  if (element.checkVisibility?.() === false) {
    const fold = element.closest('details:not([open])')
    return fold === null ? not(element, ' is not drawn') : not(fold, ' is shut')
  }
  const box = element.getBoundingClientRect()
  if (box.width < 2 || box.height < 2) return not(element, ' is without size')
  return { isSeen: true, how: '', by: '', markup: '' }
}

/** In CSS pixels of the window that an element is in. */
export interface SeenPart {
  left: number
  top: number
  right: number
  bottom: number
}

export interface Where {
  /** The element itself, wherever it is. */
  box: SeenPart
  /** What of it can be seen, within all that cuts it off; null for nothing, or too little to press. */
  visible: SeenPart | null
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
export function whereOf(element: Element, part: SeenPart | null): Where {
  const above = (one: Element): Element | null => {
    const root = one.getRootNode()
    return one.assignedSlot ?? one.parentElement ?? (root instanceof ShadowRoot ? root.host : null)
  }
  const meet = (one: SeenPart, other: SeenPart): SeenPart => ({
    left: Math.max(one.left, other.left),
    top: Math.max(one.top, other.top),
    right: Math.min(one.right, other.right),
    bottom: Math.min(one.bottom, other.bottom),
  })
  const isEmpty = ({ left, top, right, bottom }: SeenPart) => right - left < 2 || bottom - top < 2
  const round = element.getBoundingClientRect()
  const box: SeenPart =
    part === null
      ? { left: round.left, top: round.top, right: round.right, bottom: round.bottom }
      : {
          left: round.left + part.left,
          top: round.top + part.top,
          right: round.left + part.right,
          bottom: round.top + part.bottom,
        }
  const center = { x: (box.left + box.right) / 2, y: (box.top + box.bottom) / 2 }
  const holds = ({ left, top, right, bottom }: SeenPart) =>
    center.x >= left && center.x <= right && center.y >= top && center.y <= bottom
  const screen: SeenPart = { left: 0, top: 0, right: innerWidth, bottom: innerHeight }
  let visible = meet(box, screen)
  let cut: Element | null = null
  const scrollers: { element: Element; area: SeenPart }[] = []
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
    const area: SeenPart = {
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
export function pressedAt(element: Element, visible: SeenPart): Sight & { x: number; y: number } {
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
