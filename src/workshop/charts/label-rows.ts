/**
 * Rows for labels above a chart, so that none lies on another: the first row that is free, from the left.
 *
 * @param labels where each begins and ends, in CSS pixels
 * @param most rows that there are
 * @returns the row of each, from 0; null for one that no row has room for
 */
export function labelRows(labels: readonly { from: number; to: number }[], most: number): (number | null)[] {
  const ends: number[] = Array.from({ length: most }, () => -Infinity)
  const order = labels.map((label, at) => ({ ...label, at })).sort((one, other) => one.from - other.from)
  const rows: (number | null)[] = labels.map(() => null)
  for (const { from, to, at } of order) {
    const row = ends.findIndex((end) => end <= from)
    if (row < 0) continue
    ends[row] = to
    rows[at] = row
  }
  return rows
}

/** Measures texts in a font, in CSS pixels. */
export function widthsIn(font: string): (text: string) => number {
  const context = document.createElement('canvas').getContext('2d')
  if (context === null) return (text) => text.length * 6
  context.font = font
  return (text) => context.measureText(text).width
}
