import { rmSync } from 'node:fs'
import { type Browser, type BrowserContext, type Page, test as base } from '@playwright/test'
import { type Ports, type RunningBox, startBox } from '../programs'

type Profile = Awaited<ReturnType<BrowserContext['storageState']>>

/** What every test of one worker begins from: the demo as a receiver keeps it, and as a paired browser has pulled it. */
interface Seed {
  folder: string
  ports: Ports
  profile: Profile
}

/** Every test has an Ask Box and a browser context of its own, so none can lean on what another left. */
export const test = base.extend<{ workshop: Page; box: RunningBox }, { seed: Seed }>({
  seed: [
    async ({ browser }, use) => {
      const box = await startBox()
      const profile = await pairedProfile(browser, box)
      await box.end()
      const ports = [box.workshop, box.sites].map((address) => Number(new URL(address).port)) as Ports
      await use({ folder: box.folder, ports, profile })
      rmSync(box.folder, { recursive: true, force: true })
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  box: async ({ seed }, use) => {
    const box = await startBox({ from: seed.folder, ports: seed.ports })
    await use(box)
    await box.stop()
  },
  /** A paired workshop, on its Desk. Fails the test when anything there logs an error. */
  workshop: async ({ browser, seed, box }, use) => {
    const context = await browser.newContext({ storageState: seed.profile })
    const page = await context.newPage()
    const errors: string[] = []
    page.on('pageerror', (error) => errors.push(error.stack ?? error.message))
    await page.goto(box.workshop)
    await onDesk(page)
    await use(page)
    await context.close()
    if (errors.length > 0) throw new Error(`The workshop threw: ${errors.join('; ')}`)
  },
})

async function pairedProfile(browser: Browser, box: RunningBox): Promise<Profile> {
  const context = await browser.newContext()
  const page = await context.newPage()
  await page.goto(box.pairing)
  await onDesk(page)
  await page.getByText('joined in 7 days').first().waitFor()
  const profile = await context.storageState({ indexedDB: true })
  await context.close()
  return profile
}

async function onDesk(page: Page): Promise<void> {
  await page.getByRole('heading', { name: 'Forms and their lines' }).waitFor()
  await page.getByText('receiver connected').waitFor()
}

export { expect } from '@playwright/test'
