import type { Page } from '@playwright/test'

/** Notes from now on how far pages move, as Chromium reports it: Layout Instability. */
export const watchShifts = (page: Page) =>
  page.addInitScript(() => {
    const shifts = ((window as unknown as { shifts: number[] }).shifts = [] as number[])
    new PerformanceObserver((list) => {
      // What a press moves is what was wished: `hadRecentInput`.
      for (const entry of list.getEntries() as (PerformanceEntry & { value: number; hadRecentInput: boolean })[])
        if (!entry.hadRecentInput) shifts.push(entry.value)
    }).observe({ type: 'layout-shift', buffered: true })
  })

/** The sum of what moved on the page since it was opened. */
export async function shiftOn(page: Page): Promise<number> {
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))))
  return page.evaluate(() => (window as unknown as { shifts: number[] }).shifts.reduce((sum, value) => sum + value, 0))
}
