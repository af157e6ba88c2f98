import type { DrawnText, Measures } from '#core/checkup'
import type { Look } from '#core/look'
import { callWorker } from '../worker-calls'
import type { BehindFunctions, BehindWish } from './behind-worker'
import { groundsUnder, isOpaque, opacityOf } from './colours'
import { isSeen, type SeenText, textsIn } from './texts'

export interface OverPicture {
  behind: Measures['behind'][number][]
  /** Texts over the picture that the owner's own CSS gave another colour. */
  texts: DrawnText[]
  isOnGround: boolean
}

/** How far around a control counts as what is behind it, in CSS pixels. */
const AROUND = 4

/** What is really behind everything that stands over the form's picture, by its pixels; read in a worker. */
export async function overPicture({
  page,
  width,
  look,
  picture,
  base,
}: {
  page: Document
  width: number
  look: Look
  picture: Blob | null
  base: string
}): Promise<OverPicture> {
  const layer = page.querySelector('.askbox-behind')
  if (picture === null || layer === null || !isSeen(layer)) return { behind: [], texts: [], isOnGround: true }
  const texts = textsIn(page)
  const box = layer.getBoundingClientRect()
  const areaOf = (rect: DOMRect, around = 0) => ({
    left: rect.left - box.left - around,
    top: rect.top - box.top - around,
    width: rect.width + 2 * around,
    height: rect.height + 2 * around,
  })
  const over = texts.filter(({ element }) => standsOver(element, layer))
  const parts = [...page.querySelectorAll('.askbox-input, .askbox-button')].filter(
    (part) => isSeen(part) && part.parentElement !== null && standsOver(part.parentElement, layer),
  )
  const things = [
    ...over.map(({ box: rect, colour }) => ({ is: 'text' as const, area: areaOf(rect), text: colour.hex })),
    ...parts.map((part) => ({
      is: 'part' as const,
      area: areaOf(part.getBoundingClientRect(), AROUND),
      text: look.colours.text,
    })),
  ]
  const colours = await inWorker({
    picture,
    width: Math.max(1, Math.round(box.width)),
    height: Math.max(1, Math.round(box.height)),
    background: (layer.parentElement && groundsUnder(layer.parentElement, base)[0]) ?? base,
    strength: look.picture.strength / 100,
    things,
  })
  const seen = (at: number) => colours[at] ?? []
  const wears = ({ colour: { hex }, selector }: SeenText) =>
    Object.values({ ...look.colours, button: null }).includes(hex) ||
    (selector === '.askbox-button' && hex === look.colours.button)
  return {
    behind: [
      ...over.flatMap((text, at) =>
        wears(text) && seen(at).length > 0
          ? [
              {
                selector: text.selector === '::placeholder' ? '.askbox-input' : text.selector,
                width,
                is: 'text' as const,
                colours: seen(at),
              },
            ]
          : [],
      ),
      ...parts.flatMap((part, at) =>
        seen(over.length + at).length > 0
          ? [
              {
                selector: part.matches('.askbox-button') ? '.askbox-button' : '.askbox-input',
                width,
                is: 'part' as const,
                colours: seen(over.length + at),
              },
            ]
          : [],
      ),
    ],
    texts: over.flatMap((text, at) => {
      const { selector, element, colour, isLarge } = text
      return wears(text) || seen(at).length === 0
        ? []
        : [
            {
              selector,
              width,
              colour: colour.hex,
              opacity: colour.opacity * opacityOf(element),
              grounds: seen(at),
              under: seen(at),
              isLarge,
            },
          ]
    }),
    isOnGround: texts.some((text) => !text.element.matches('.askbox-input, .askbox-button') && !over.includes(text)),
  }
}

/** Whether nothing between an element's content and the picture hides the picture. */
export function standsOver(element: Element, layer: Element): boolean {
  for (let one: Element | null = element; one !== null; one = one.parentElement) {
    if (one === layer.parentElement) return true
    if (isOpaque(one)) return false
  }
  return false
}

function inWorker(wish: BehindWish): Promise<string[][]> {
  const worker = new Worker(new URL('./behind-worker.ts', import.meta.url), { type: 'module' })
  return callWorker<BehindFunctions, string[][]>(worker, ({ behind }) => behind(wish)).catch(() => [])
}
