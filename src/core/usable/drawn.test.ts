import fc from 'fast-check'
import { wcagContrast } from 'culori'
import { type Pixels, drawingOf } from './drawn'

const drawn = (width: number, height: number, colourAt: (x: number, y: number) => readonly number[]): Pixels => {
  const data = new Uint8ClampedArray(width * height * 4)
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) data.set([...colourAt(x, y), 255], (y * width + x) * 4)
  return { data, width, height }
}
const white = [255, 255, 255]
const plain = (colour: readonly number[]) => drawn(40, 20, () => colour)
const box = (colour: readonly number[], ground: readonly number[] = white, left = 8) =>
  drawn(40, 20, (x, y) => (x >= left && x < left + 20 && y >= 5 && y < 15 ? colour : ground))

test('property: an area of one colour on another has their contrast by WCAG 2.2 (culori), where it differs at all', () => {
  const channel = fc.integer({ min: 0, max: 255 })
  const colour = fc.tuple(channel, channel, channel)
  fc.assert(
    fc.property(colour, colour, (one, other) => {
      const hex = ([r, g, b]: readonly number[]) => ({ mode: 'rgb' as const, r: r! / 255, g: g! / 255, b: b! / 255 })
      const { pixels, contrast } = drawingOf([box(one, other)], [plain(other)])
      const expected = wcagContrast(hex(one), hex(other))
      if (pixels === 0) expect(expected).toBeLessThan(1.06)
      else expect(contrast).toBeCloseTo(expected, 2)
    }),
  )
})

test('what moves in the place by itself is not the element, and an element that moves itself is', () => {
  // Something of others, elsewhere in each picture, and nothing of the element.
  const moving = [0, 4, 8, 12].map((left) => box([0, 0, 0], white, left))
  expect(drawingOf([moving[0]!, moving[2]!], [moving[1]!, moving[3]!]).pixels).toBe(0)
  // A button that pulses.
  expect(drawingOf([box([200, 0, 0]), box([120, 0, 0])], [plain(white), plain(white)]).pixels).toBe(200)
})

test('a blur is told by its steps: those of a Gaussian', () => {
  const blurred = (sigma: number) => {
    const share = (x: number) => {
      let sum = 0
      for (let at = -30; at <= 30; at += 0.25)
        if (x + at >= 20) sum += (0.25 * Math.exp((-at * at) / (2 * sigma * sigma))) / (sigma * Math.sqrt(2 * Math.PI))
      return sum
    }
    return drawn(60, 4, (x) => Array.from({ length: 3 }, () => Math.round(255 * (1 - share(x) * 0.5))))
  }
  const sharpness = (sigma: number) => drawingOf([blurred(sigma)], [drawn(60, 4, () => white)]).sharpness
  expect(sharpness(0.3)).toBeGreaterThan(0.6)
  for (const sigma of [2, 4, 8]) expect(sharpness(sigma)).toBeCloseTo(1 / (sigma * Math.sqrt(2 * Math.PI)), 1)
  expect(drawingOf([box([0, 0, 0])], [plain(white)]).sharpness).toBe(1)
})
