import { blend, formatHex, wcagContrast } from 'culori'
import fc from 'fast-check'
import { isDark, mix } from '.'

const colour = fc.integer({ min: 0, max: 0xffffff }).map((value) => `#${value.toString(16).padStart(6, '0')}`)

test('property: a colour is dark when white reads better on it than black, by WCAG 2.2’s contrast (culori)', () => {
  fc.assert(
    fc.property(colour, (ground) => {
      const [white, black] = [wcagContrast(ground, '#ffffff'), wcagContrast(ground, '#000000')]
      return Math.abs(white - black) < 0.01 || isDark(ground) === white > black
    }),
    { numRuns: 1000 },
  )
})

test('property: laying a share of one colour on another is simple alpha compositing, to the rounding (culori)', () => {
  const channels = (hex: string) => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16))
  fc.assert(
    fc.property(colour, colour, fc.double({ min: 0, max: 1, noNaN: true }), (over, under, share) => {
      const [red, green, blue] = channels(over).map((channel) => channel / 255)
      const expected = formatHex(blend([under, { mode: 'rgb', r: red!, g: green!, b: blue!, alpha: share }]))!
      return channels(mix(over, under, share)).every((channel, at) => Math.abs(channel - channels(expected)[at]!) <= 1)
    }),
  )
})
