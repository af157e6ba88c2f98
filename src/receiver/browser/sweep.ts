import type { Locator, Page } from 'playwright-core'
import { shownOf } from './in-page'
import { until } from './waiting'

/** CSS pixels: where the sizes of screens are, and what is between them is found by halving. */
const WIDTHS = [320, 360, 414, 480, 600, 700, 768, 820, 900, 1024, 1100, 1200, 1280, 1440, 1680, 1920]
const LAID_OUT_MS = 300

/** The widths of the window, from and to, at which something is out of sight. */
export async function hiddenWidths(page: Page, form: Locator): Promise<[number, number][]> {
  const size = page.viewportSize()!
  const isSeenAt = async (width: number) => {
    await page.setViewportSize({ width, height: size.height })
    const isSeen = async () => (await form.count()) > 0 && (await form.evaluate(shownOf)).isSeen
    return (await until(async () => ((await isSeen()) ? true : null), LAID_OUT_MS)) === true
  }
  const edge = async (low: number, high: number, isSeenLow: boolean): Promise<number> => {
    while (high - low > 1) {
      const middle = Math.floor((low + high) / 2)
      if ((await isSeenAt(middle)) === isSeenLow) low = middle
      else high = middle
    }
    return high
  }
  const seen: boolean[] = []
  for (const width of WIDTHS) seen.push(await isSeenAt(width))
  const hiddenAt: [number, number][] = []
  for (let at = 0; at < WIDTHS.length; at += 1) {
    if (seen[at]) continue
    let last = at
    while (last + 1 < WIDTHS.length && !seen[last + 1]) last += 1
    const from = at === 0 ? WIDTHS[0]! : await edge(WIDTHS[at - 1]!, WIDTHS[at]!, true)
    const to = last === WIDTHS.length - 1 ? WIDTHS.at(-1)! : (await edge(WIDTHS[last]!, WIDTHS[last + 1]!, false)) - 1
    hiddenAt.push([from, to])
    at = last
  }
  await page.setViewportSize(size)
  return hiddenAt
}
