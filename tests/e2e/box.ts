import { readdirSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { type Browser, type BrowserContext, type Page, test as base, type TestInfo } from '@playwright/test'
import { type Ports, type RunningBox, startBox } from '../programs'

type Profile = Awaited<ReturnType<BrowserContext['storageState']>>

/** What every test of one worker begins from: the demo as a receiver keeps it, and as a paired browser has pulled it. */
interface Seed {
  folder: string
  ports: Ports
  profile: Profile
}

/**
 * A browser profile that one test after the other uses, emptied in between; null after a test that failed. A blank page
 * stays open in it: with the first page of a profile Chromium makes a window, which costs more than what most tests do.
 */
interface Kept {
  context: BrowserContext | null
  blank: Page | null
  /** Whether the workshop may keep a copy of itself there: made anew for every test, that takes longer than most of them. */
  withCopy: boolean
}

/** An Ask Box that a test left as it found it, for the next one. */
interface Running {
  box: RunningBox | null
  withMailbox: boolean
}

/**
 * Every test has an Ask Box of its own, or one in which nothing was written, and finds its browser as if new, so none can
 * lean on what another left. The profiles are the same ones all along: a new one has every script compiled again, and a
 * window of its own drawn.
 */
export const test = base.extend<
  { paired: Page; workshop: Page; box: RunningBox; withMailbox: boolean; withCopy: boolean },
  { seed: Seed; running: Running; owner: Kept; visitor: Kept }
>({
  owner: [async ({}, use) => use({ context: null, blank: null, withCopy: false }), { scope: 'worker' }],
  visitor: [async ({}, use) => use({ context: null, blank: null, withCopy: false }), { scope: 'worker' }],
  page: ({ browser, visitor }, use, info) => withPage(browser, visitor, { cookies: [], origins: [] }, use, info),
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
  /** Whether the stand-in mailbox runs too. */
  withMailbox: [false, { option: true }],
  running: [
    async ({}, use) => {
      const running: Running = { box: null, withMailbox: false }
      await use(running)
      await running.box?.stop()
    },
    { scope: 'worker' },
  ],
  box: async ({ seed, running, withMailbox }, use, info) => {
    if (running.withMailbox !== withMailbox) await stopRunning(running)
    running.box ??= await startBox({ from: seed.folder, ports: seed.ports, withMailbox })
    running.withMailbox = withMailbox
    const { box } = running
    const { receiver } = box
    const before = writtenIn(box.folder)
    await use(box)
    // What the last page still sent is taken in before this is answered.
    if (receiver.exitCode === null && receiver.signalCode === null)
      await fetch(`${box.workshop}/page/nowhere`).catch(() => {})
    const isAsBefore =
      info.status === info.expectedStatus &&
      box.receiver === receiver &&
      receiver.exitCode === null &&
      receiver.signalCode === null &&
      writtenIn(box.folder) === before
    if (!isAsBefore) await stopRunning(running)
  },
  /** Whether the workshop can be opened without the receiver: its service worker is let in. */
  withCopy: [false, { option: true }],
  /** A paired workshop that is not open yet, and closes before its box ends. Fails the test when anything there throws. */
  paired: async ({ browser, owner, seed, withCopy, box: _ }, use, info) => {
    if (owner.withCopy !== withCopy) await letGo(owner)
    owner.withCopy = withCopy
    await withPage(
      browser,
      owner,
      seed.profile,
      async (page) => {
        const errors: string[] = []
        page.on('pageerror', (error) => errors.push(error.stack ?? error.message))
        await use(page)
        if (errors.length > 0) throw new Error(`The workshop threw: ${errors.join('; ')}`)
      },
      info,
    )
  },
  /** The same, open on its Desk. */
  workshop: async ({ paired, box }, use) => {
    await paired.goto(box.workshop)
    await onDesk(paired)
    await use(paired)
  },
})

async function stopRunning(running: Running): Promise<void> {
  const { box } = running
  running.box = null
  await box?.stop()
}

/** What is written in a folder, as far as sizes and times tell: whoever answered a sign-up has written. */
function writtenIn(folder: string): string {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((one) => one.isFile())
    .map(({ parentPath, name }) => join(parentPath, name))
    .sort()
    .map((file) => {
      const { size, mtimeMs } = statSync(file)
      return `${file} ${size} ${mtimeMs}`
    })
    .join('\n')
}

async function withPage(
  browser: Browser,
  kept: Kept,
  profile: Profile,
  use: (page: Page) => Promise<void>,
  info: TestInfo,
): Promise<void> {
  kept.context ??= await browser.newContext({ serviceWorkers: kept.withCopy ? 'allow' : 'block' })
  const { context } = kept
  kept.blank ??= await context.newPage()
  await context.setStorageState(profile)
  await use(await context.newPage())
  if (info.status !== info.expectedStatus) return letGo(kept)
  const isClean = await Promise.race([
    clean(context, kept.blank),
    new Promise<false>((resolve) => setTimeout(resolve, 15_000, false)),
  ])
  // A browser that does not answer any more is not asked again.
  if (!isClean) void letGo(kept).catch(() => {})
}

async function letGo(kept: Kept): Promise<void> {
  const { context } = kept
  kept.context = null
  kept.blank = null
  await context?.close()
}

async function clean(context: BrowserContext, blank: Page): Promise<true> {
  await Promise.all(context.pages().map((page) => (page === blank ? undefined : page.close())))
  await context.unrouteAll()
  await context.setOffline(false)
  await context.clearPermissions()
  return true
}

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
