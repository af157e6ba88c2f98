import type { CDPSession, ElementHandle, Locator } from 'playwright-core'
import { PNG } from 'pngjs'
import { drawingOf, type Pixels } from '#core/usable'
import { lettersOf, movesAround, type SeenPart, shownAgain, unshown } from './in-page'

const PICTURE_MS = 3_000
const QUALITY = 50
/** What is around an element belongs to its picture: its border's outer edge, a blur. */
const MARGIN = 3
/** Of large elements a part tells as much. */
const MOST_WIDTH = 400
const MOST_HEIGHT = 120
/** Fewer are a stray line. */
const LEAST_PIXELS = 16
/** Contrast of a barely visible edge: #e8e8e8 on white has 1.2. */
const LEAST_CONTRAST = 1.06
/** Letters that nobody can read. WCAG asks for 4.5; so little is a fault and no taste. */
const LEAST_LETTERS = 1.5
/** An edge under a blur of two pixels has 0.2. */
const LEAST_SHARPNESS = 0.22

/** What the picture shows of an element that the page's styles show; null where it shows it well. */
export type Unseen = 'nothing' | 'faint' | 'letters' | 'blurred'

/**
 * Looks at an element's own pixels: its place is drawn with it, without it, and without its letters.
 *
 * @param area of the window, in CSS pixels, where it stands
 */
export async function drawnAt(session: CDPSession, target: Locator, area: SeenPart): Promise<Unseen | null> {
  const window = await windowOf(session)
  const clip = clipOf(area, window)
  if (clip === null) return 'nothing'
  const shot = () => pictureOf(session, { ...clip, x: window.pageX + clip.x, y: window.pageY + clip.y, scale: 1 })
  // By itself: a locator that asks for what can be seen would find another meanwhile.
  const element = (await target.elementHandle()) as ElementHandle<Element>
  const without = async (what: 'all' | 'letters') => {
    await element.evaluate(unshown, what)
    try {
      return await shot()
    } finally {
      await element.evaluate(shownAgain).catch(() => {})
    }
  }
  const withIt = [await shot()]
  const empty = [await without('all')]
  if (drawingOf(withIt, empty).pixels < LEAST_PIXELS) return 'nothing'
  const letters = await element.evaluate(lettersOf)
  const noLetters = letters === '' ? null : await without('letters')
  // Where something moves, a second pair tells the element from what passes by.
  if (await element.evaluate(movesAround)) {
    withIt.push(await shot())
    empty.push(await without('all'))
  }
  const whole = drawingOf(withIt, empty)
  if (whole.pixels < LEAST_PIXELS) return 'nothing'
  if (whole.contrast < LEAST_CONTRAST) return 'faint'
  if (noLetters !== null) {
    const said = drawingOf(withIt, [noLetters])
    // A button may say it by a picture of its own.
    if (said.pixels > 0 || whole.contrast < LEAST_LETTERS) {
      if (said.contrast < LEAST_LETTERS) return 'letters'
      if (said.sharpness < LEAST_SHARPNESS) return 'blurred'
      return null
    }
  }
  return whole.sharpness < LEAST_SHARPNESS ? 'blurred' : null
}

/** Whether the whole window has one colour. */
export async function isBlank(session: CDPSession): Promise<boolean> {
  const { pageX, pageY, clientWidth: width, clientHeight: height } = await windowOf(session)
  const { data } = await pictureOf(session, { x: pageX, y: pageY, width, height, scale: 0.25 })
  for (let at = 4; at < data.length; at += 4)
    for (let channel = 0; channel < 3; channel += 1)
      if (Math.abs(data[at + channel]! - data[channel]!) > 6) return false
  return true
}

/** What of the page can be seen, in CSS pixels. */
export async function windowOf(
  session: CDPSession,
): Promise<Record<'pageX' | 'pageY' | 'clientWidth' | 'clientHeight', number>> {
  return (await session.send('Page.getLayoutMetrics')).cssVisualViewport
}

async function pictureOf(session: CDPSession, clip: Clip): Promise<Pixels> {
  const { data, width, height } = PNG.sync.read(Buffer.from(await captured(session, 'png', clip), 'base64'))
  return { data, width, height }
}

/** Of the page, in CSS pixels from its left upper corner; `scale` makes it smaller. */
interface Clip {
  x: number
  y: number
  width: number
  height: number
  scale: number
}

/**
 * A picture of a part of the window as the screen shows it, in base64.
 *
 * @throws where a page does not hold still
 */
export async function captured(session: CDPSession, format: 'png' | 'jpeg', clip: Clip): Promise<string> {
  const taken = await Promise.race([
    session.send('Page.captureScreenshot', {
      format,
      clip,
      optimizeForSpeed: true,
      ...(format === 'jpeg' && { quality: QUALITY }),
    }),
    new Promise<never>((_, reject) => setTimeout(() => reject(new Error('It takes too long.')), PICTURE_MS).unref()),
  ])
  return taken.data
}

function clipOf(
  { left, top, right, bottom }: SeenPart,
  { clientWidth, clientHeight }: { clientWidth: number; clientHeight: number },
): { x: number; y: number; width: number; height: number } | null {
  const [x, y] = [Math.max(0, Math.floor(left) - MARGIN), Math.max(0, Math.floor(top) - MARGIN)]
  const width = Math.min(clientWidth, Math.ceil(right) + MARGIN, x + MOST_WIDTH) - x
  const height = Math.min(clientHeight, Math.ceil(bottom) + MARGIN, y + MOST_HEIGHT) - y
  return width < 2 || height < 2 ? null : { x, y, width, height }
}
