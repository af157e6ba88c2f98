import { create } from 'qrcode'
import { element, toHtml } from '#core/render'

/** ISO/IEC 18004 asks for four modules of quiet ground around. */
const QUIET = 4

/** An address as a QR code, dark modules by row. Level M: a seventh of it may be dirty or torn. */
export function qrModules(address: string): boolean[][] {
  const { modules } = create(address, { errorCorrectionLevel: 'M' })
  return Array.from({ length: modules.size }, (_, row) =>
    Array.from({ length: modules.size }, (_, column) => Boolean(modules.get(row, column))),
  )
}

/** The code as an SVG file, black on white, 1 unit a module. */
export function qrSvg(address: string, label: string): string {
  const modules = qrModules(address)
  const size = modules.length + 2 * QUIET
  // One path of one stroke a row: small, and without seams between modules when it is scaled.
  const path = modules
    .flatMap((row, y) => row.flatMap((isDark, x) => (isDark ? [`M${x + QUIET} ${y + QUIET}h1v1h-1z`] : [])))
    .join('')
  return `${toHtml(
    element(
      'svg',
      {
        xmlns: 'http://www.w3.org/2000/svg',
        viewBox: `0 0 ${size} ${size}`,
        width: String(size * 8),
        height: String(size * 8),
        role: 'img',
        'aria-label': label,
        'shape-rendering': 'crispEdges',
      },
      element('path', { d: `M0 0h${size}v${size}H0z`, fill: '#fff' }),
      element('path', { d: path, fill: '#000' }),
    ),
  )}\n`
}
