import { test as base, type Page } from '@playwright/test'
import { type RunningBox, startBox } from '../programs'

/** Every test has an Ask Box and a browser context of its own, so none can lean on what another left. */
export const test = base.extend<{ workshop: Page; box: RunningBox }>({
  // The first argument has to be written so: the test runner reads which fixtures it needs from it.
  box: async ({}, use) => {
    const box = await startBox()
    await use(box)
    await box.stop()
  },
  /** A paired workshop, on its Desk. Fails the test when anything there logs an error. */
  workshop: async ({ page, box }, use) => {
    const errors: string[] = []
    page.on('pageerror', (error) => errors.push(error.stack ?? error.message))
    await page.goto(box.pairing)
    await page.getByRole('heading', { name: 'Forms and their lines' }).waitFor()
    await page.getByText('receiver connected').waitFor()
    await use(page)
    if (errors.length > 0) throw new Error(`The workshop threw: ${errors.join('; ')}`)
  },
})

export { expect } from '@playwright/test'
