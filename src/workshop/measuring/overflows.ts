import type { Measures } from '#core/checkup'

/** A word that would have to be broken does not fit, so for measuring nothing may break it. */
const UNBROKEN =
  'form.askbox *, main *{overflow-wrap:normal!important;word-break:normal!important;hyphens:manual!important}'

/** Buttons, headings and labels whose words are wider than their room. */
export function overflowsIn(page: Document, width: number): Measures['overflows'][number][] {
  const style = page.createElement('style')
  style.textContent = UNBROKEN
  page.head.append(style)
  const overflows = ['.askbox-button', '.askbox-heading', '.askbox-label'].flatMap((selector) =>
    [...page.querySelectorAll<HTMLElement>(selector)]
      .filter((node) => {
        const room = (node.closest('.askbox-card') ?? page.documentElement).getBoundingClientRect()
        return node.scrollWidth > node.clientWidth + 1 || node.getBoundingClientRect().right > room.right + 1
      })
      .slice(0, 1)
      .map((node) => ({ selector, width, words: node.textContent?.trim() ?? '' })),
  )
  style.remove()
  return [...overflows, ...cutExamples(page, width)]
}

/** The example that is furthest cut off in its field: browsers tell no width of it, so its words are measured in its font. */
function cutExamples(page: Document, width: number): Measures['overflows'][number][] {
  const pen = page.createElement('canvas').getContext('2d')
  const view = page.defaultView
  if (pen === null || view === null) return []
  return [...page.querySelectorAll<HTMLInputElement>('input.askbox-input[placeholder]')]
    .filter((input) => {
      const { font, letterSpacing } = view.getComputedStyle(input, '::placeholder')
      const { paddingInlineStart, paddingInlineEnd } = view.getComputedStyle(input)
      pen.font = font
      pen.letterSpacing = letterSpacing === 'normal' ? '0px' : letterSpacing
      const room = input.clientWidth - parseFloat(paddingInlineStart) - parseFloat(paddingInlineEnd)
      return input.clientWidth > 0 && pen.measureText(input.placeholder).width > room + 1
    })
    .slice(0, 1)
    .map((input) => ({ selector: '::placeholder', width, words: input.placeholder }))
}
