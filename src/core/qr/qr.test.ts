import fc from 'fast-check'
import jsQR from 'jsqr'
import { parseFragment, defaultTreeAdapter as tree } from 'parse5'
import { qrModules, qrSvg } from '.'

/** Modules as grey pixels with quiet ground around, read by jsQR, a decoder of other make. */
function read(modules: boolean[][]): string | undefined {
  const [dot, quiet] = [4, 4]
  const side = (modules.length + 2 * quiet) * dot
  const pixels = new Uint8ClampedArray(side * side * 4).fill(255)
  for (const [y, row] of modules.entries())
    for (const [x, isDark] of row.entries())
      if (isDark)
        for (let at = 0; at < dot * dot; at++) {
          const pixel = ((y + quiet) * dot + Math.floor(at / dot)) * side + (x + quiet) * dot + (at % dot)
          pixels.fill(0, pixel * 4, pixel * 4 + 3)
        }
  return jsQR(pixels, side, side)?.data
}

test.each([
  'https://forms.example/page/star-chart',
  'http://localhost:4310/page/starchart?source=poster',
  `https://forms.example/page/${'long-'.repeat(11)}end?source=${'a'.repeat(100)}`,
])('%s is read back by an independent decoder', (address) => {
  expect(read(qrModules(address))).toBe(address)
})

test('property: any address is read back', () => {
  fc.assert(
    fc.property(fc.webUrl({ withQueryParameters: true }), (address) => {
      fc.pre(address.length < 300)
      expect(read(qrModules(address))).toBe(address)
    }),
    { numRuns: 25 },
  )
})

test('the SVG draws the same modules, and says what it is', () => {
  const address = 'https://forms.example/page/star-chart'
  const [svg] = parseFragment(qrSvg(address, 'To the "chart"')).childNodes.filter(tree.isElementNode)
  const attribute = (node: typeof svg, name: string) => node!.attrs.find((one) => one.name === name)?.value
  expect(attribute(svg, 'aria-label')).toBe('To the "chart"')
  const path = attribute(svg!.childNodes.filter(tree.isElementNode)[1], 'd')!
  const size = qrModules(address).length
  const drawn = Array.from({ length: size }, () => Array<boolean>(size).fill(false))
  for (const [, x, y] of path.matchAll(/M(\d+) (\d+)h1v1h-1z/g)) drawn[Number(y) - 4]![Number(x) - 4] = true
  expect(read(drawn)).toBe(address)
})
