import { mix } from '#core/look'

/** A colour as a browser computed it, in sRGB. */
export interface SeenColour {
  /** `#rrggbb`. */
  hex: string
  /** 0 to 1. */
  opacity: number
}

const known = new Map<string, SeenColour>()
let canvas: CanvasRenderingContext2D | null = null

/** Any colour that a computed style can hold, whatever its syntax: the browser itself draws it. */
export function seenColour(computed: string): SeenColour {
  const before = known.get(computed)
  if (before !== undefined) return before
  canvas ??= Object.assign(document.createElement('canvas'), { width: 1, height: 1 }).getContext('2d', { willReadFrequently: true })!
  canvas.clearRect(0, 0, 1, 1)
  canvas.fillStyle = '#000000'
  canvas.fillStyle = computed
  canvas.fillRect(0, 0, 1, 1)
  const [red = 0, green = 0, blue = 0, alpha = 0] = canvas.getImageData(0, 0, 1, 1).data
  const seen = { hex: `#${[red, green, blue].map((channel) => channel.toString(16).padStart(2, '0')).join('')}`, opacity: alpha / 255 }
  known.set(computed, seen)
  return seen
}

/** Share of an element that is seen, with all it stands in. */
export function opacityOf(element: Element): number {
  let share = 1
  for (let one: Element | null = element; one !== null; one = one.parentElement) share *= Number(styleOf(one).opacity)
  return share
}

/** Every colour that is behind what stands in an element, `#rrggbb`; `base` is behind the page. */
export function groundsUnder(element: Element | null, base: string): string[] {
  if (element === null) return [base]
  const { layers, isOpaque } = layersOf(element)
  const under = isOpaque ? [base] : groundsUnder(element.parentElement, base)
  return layers.length === 0 ? under : [...new Set(under.flatMap((ground) => layers.map(({ hex, opacity }) => mix(hex, ground, opacity))))]
}

/** Whether an element is drawn on something of its own that lets nothing through. */
export function isOpaque(element: Element): boolean {
  return layersOf(element).isOpaque
}

/** An element's own background: one colour, or those along its gradients. */
function layersOf(element: Element): { layers: SeenColour[]; isOpaque: boolean } {
  const style = styleOf(element)
  const share = Number(style.opacity)
  const colour = seenColour(style.backgroundColor)
  const along = style.backgroundImage === 'none' ? [] : gradientColours(style.backgroundImage)
  const under = along.length === 0 ? [colour] : along.map((one) => ({ hex: mix(one.hex, colour.opacity === 0 ? one.hex : colour.hex, one.opacity), opacity: Math.max(one.opacity, colour.opacity) }))
  const layers = under.map((one) => ({ ...one, opacity: one.opacity * share })).filter(({ opacity }) => opacity > 0)
  return { layers, isOpaque: layers.length > 0 && layers.every(({ opacity }) => opacity > 0.99) }
}

/** Steps from one colour of a gradient to the next. */
const STEPS = 4

function gradientColours(image: string): SeenColour[] {
  const stops = (image.match(/(?:rgba?|hsla?|hwb|lab|lch|oklab|oklch|color)\([^()]*\)|#[0-9a-f]{3,8}\b/gi) ?? []).map(seenColour)
  return stops.flatMap((stop, at) => {
    const next = stops[at + 1]
    if (next === undefined) return [stop]
    return Array.from({ length: STEPS }, (_, step) => ({ hex: mix(next.hex, stop.hex, step / STEPS), opacity: stop.opacity + ((next.opacity - stop.opacity) * step) / STEPS }))
  })
}

/** An element's computed style, by the window it lives in. */
export function styleOf(element: Element, pseudo?: string): CSSStyleDeclaration {
  return element.ownerDocument.defaultView!.getComputedStyle(element, pseudo)
}
