import { mix } from '#core/look'

/** A colour as a browser computed it, in sRGB. */
export interface SeenColour {
  /** `#rrggbb`. */
  hex: string
  /** 0 to 1. */
  opacity: number
}

const colours = new Map<string, SeenColour>()
let canvas: CanvasRenderingContext2D | null = null

/** Any colour that a computed style can hold, whatever its syntax: the browser itself draws it. */
export function seenColour(computed: string): SeenColour {
  const before = colours.get(computed)
  if (before !== undefined) return before
  canvas ??= Object.assign(document.createElement('canvas'), { width: 1, height: 1 }).getContext('2d', {
    willReadFrequently: true,
  })!
  canvas.clearRect(0, 0, 1, 1)
  canvas.fillStyle = '#000000'
  canvas.fillStyle = computed
  canvas.fillRect(0, 0, 1, 1)
  const [red = 0, green = 0, blue = 0, alpha = 0] = canvas.getImageData(0, 0, 1, 1).data
  const seen = {
    hex: `#${[red, green, blue].map((channel) => channel.toString(16).padStart(2, '0')).join('')}`,
    opacity: alpha / 255,
  }
  colours.set(computed, seen)
  return seen
}

/** Product of the `opacity` of an element and of all its ancestors. */
export function opacityOf(element: Element): number {
  return chainOf(element).reduce((share, one) => share * Number(styleOf(one).opacity), 1)
}

/** Every colour that is behind what stands in an element, `#rrggbb`; `base` is behind the page. */
export function groundsUnder(element: Element, base: string): string[] {
  return [...new Set(paint(chainOf(element), base).map(({ out }) => out))]
}

/**
 * A text's colour after compositing: `colour` over `under` with the group opacity of its ancestors, on each of `grounds`.
 * `opacity` applies to an element together with its descendants (CSS Color Module Level 3, section 3.2), so a text may be
 * composited over another colour than the one that is seen around it.
 */
export function laidOn(
  element: Element,
  { hex, opacity: own }: SeenColour,
  base: string,
): { colour: string; opacity: number; grounds: string[]; under: string[] } {
  const opacity = Number((own * opacityOf(element)).toFixed(3))
  const painted = paint(chainOf(element), base)
  return {
    colour: hex,
    opacity,
    grounds: painted.map(({ out }) => out),
    under: painted.map(({ inside, out }) => (opacity > 0.99 ? out : without(inside, opacity, out))),
  }
}

/** The inverse of compositing: the backdrop on which `over` with this opacity results in `made`. */
function without(over: string, opacity: number, made: string): string {
  const channel = (colour: string, at: number) => Number.parseInt(colour.slice(at, at + 2), 16)
  return `#${[1, 3, 5]
    .map((at) => Math.round((channel(made, at) - opacity * channel(over, at)) / (1 - opacity)))
    .map((value) => Math.min(255, Math.max(0, value)).toString(16).padStart(2, '0'))
    .join('')}`
}

/** An element and all it stands in, the outermost first. */
function chainOf(element: Element): Element[] {
  const chain: Element[] = []
  for (let one: Element | null = element; one !== null; one = one.parentElement) chain.unshift(one)
  return chain
}

/**
 * Composites backgrounds from the outermost element inwards: `inside` is the colour that a child is painted on, `out` the
 * colour seen after every ancestor's `opacity`. Simple alpha compositing, CSS Color 4.
 */
function paint([first, ...rest]: readonly Element[], behind: string): { inside: string; out: string }[] {
  if (first === undefined) return [{ inside: behind, out: behind }]
  const share = Number(styleOf(first).opacity)
  const layers = layersOf(first)
  const grounds =
    layers.length === 0 ? [behind] : [...new Set(layers.map(({ hex, opacity }) => mix(hex, behind, opacity)))]
  return grounds.flatMap((ground) =>
    paint(rest, ground).map(({ inside, out }) => ({ inside, out: mix(out, behind, share) })),
  )
}

/** Whether an element has an opaque background of its own. */
export function isOpaque(element: Element): boolean {
  const layers = layersOf(element)
  return layers.length > 0 && layers.every(({ opacity }) => opacity > 0.99) && Number(styleOf(element).opacity) > 0.99
}

/** An element's own background: one colour, or those along its gradients; none where it has none. */
function layersOf(element: Element): SeenColour[] {
  const style = styleOf(element)
  const colour = seenColour(style.backgroundColor)
  const along = style.backgroundImage === 'none' ? [] : gradientColours(style.backgroundImage)
  const layers =
    along.length === 0
      ? [colour]
      : along.map((one) => ({
          hex: mix(one.hex, colour.opacity === 0 ? one.hex : colour.hex, one.opacity),
          opacity: Math.max(one.opacity, colour.opacity),
        }))
  return layers.filter(({ opacity }) => opacity > 0)
}

/** Steps from one colour of a gradient to the next. */
const STEPS = 4

function gradientColours(image: string): SeenColour[] {
  const stops = (image.match(/(?:rgba?|hsla?|hwb|lab|lch|oklab|oklch|color)\([^()]*\)|#[0-9a-f]{3,8}\b/gi) ?? []).map(
    seenColour,
  )
  return stops.flatMap((stop, at) => {
    const next = stops[at + 1]
    if (next === undefined) return [stop]
    return Array.from({ length: STEPS }, (_, step) => ({
      hex: mix(next.hex, stop.hex, step / STEPS),
      opacity: stop.opacity + ((next.opacity - stop.opacity) * step) / STEPS,
    }))
  })
}

/** An element's computed style, by the window it lives in. */
export function styleOf(element: Element, pseudo?: string): CSSStyleDeclaration {
  return element.ownerDocument.defaultView!.getComputedStyle(element, pseudo)
}
