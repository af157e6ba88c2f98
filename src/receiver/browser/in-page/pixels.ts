/*
 * What is changed for a moment to tell an element’s own pixels. Each function is carried into the page as text, so it uses nothing from outside itself.
 */

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
