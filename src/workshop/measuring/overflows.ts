import type { Measures } from '#core/checkup'

/** A word that would have to be broken does not fit, so for measuring nothing may break it. */
const UNBROKEN =
  'form.askbox *, main *{overflow-wrap:normal!important;word-break:normal!important;hyphens:manual!important}'

/** Buttons, headings and labels whose words are wider than their room. */
export function overflowsIn(page: Document, width: number): Measures['overflows'][number][] {
  const style = page.createElement('style')
  style.textContent = UNBROKEN
  page.head.append(style)
  const found = ['.askbox-button', '.askbox-heading', '.askbox-label'].flatMap((selector) =>
    [...page.querySelectorAll<HTMLElement>(selector)]
      .filter((node) => {
        const room = (node.closest('.askbox-card') ?? page.documentElement).getBoundingClientRect()
        return node.scrollWidth > node.clientWidth + 1 || node.getBoundingClientRect().right > room.right + 1
      })
      .slice(0, 1)
      .map((node) => ({ selector, width, words: node.textContent?.trim() ?? '' })),
  )
  style.remove()
  return found
}
