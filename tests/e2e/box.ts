import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import {
  type Browser,
  type BrowserContext,
  type Page,
  test as base,
  type TestInfo,
  type ViewportSize,
} from '@playwright/test'
import {
  end,
  isAlive,
  type Ports,
  type ReceiverHost,
  type RunningBox,
  type RunningSites,
  startBox,
  startReceiverHost,
  startSites,
} from '../programs'
import { copyDatabase } from './copy-database'
import { seedsFolder } from './seeds-folder'

type Profile = Awaited<ReturnType<BrowserContext['storageState']>>

/** The workshop's database, and a copy of it as the seed holds it. */
const DATABASE = 'ask-box'
const SEEDED = 'seeded'

/** What every test of one worker begins from: the demo as a receiver keeps it, and as a paired browser has pulled it. */
export interface Seed {
  folder: string
  ports: Ports
  profile: Profile
}

/** What a browser keeps from one test to the next, so that it need not begin anew; null after a test that failed. */
export interface Kept {
  /** A profile, emptied in between. A blank page stays open in it: with its first one Chromium makes a window. */
  visitor: BrowserContext | null
  /** A page in a profile of its own that has the workshop's scripts compiled, and in its database what the seed holds. */
  owner: Page | null
}

/** An Ask Box, and stand-in sites, that a test left as it found them, for the next one. */
export interface Running {
  box: RunningBox | null
  sites: RunningSites | null
  withMailbox: boolean
  /** Where the boxes' receivers run, as long as none is killed. */
  host: ReceiverHost | null
}

/**
 * Every test has an Ask Box of its own, or one in which nothing was written, and finds its browser as if new, so none can
 * lean on what another left. The browser's windows, and the scripts that it has compiled, are the same ones all along.
 */
export const test = base.extend<
  { paired: Page; workshop: Page; box: RunningBox; withMailbox: boolean; withCopy: boolean },
  { seed: Seed; running: Running; kept: Kept }
>({
  kept: [async ({}, use) => use({ visitor: null, owner: null }), { scope: 'worker' }],
  page: ({ browser, kept }, use, info) => withVisitorsPage(browser, kept, use, info),
  seed: [
    async ({ browser }, use, { parallelIndex }) => {
      const kept = join(seedsFolder, String(parallelIndex))
      const file = join(kept, 'seed.json')
      if (!existsSync(file)) {
        const seed = await makeSeed(browser, join(kept, 'data'))
        writeFileSync(file, JSON.stringify(seed))
      }
      await use(JSON.parse(readFileSync(file, 'utf8')) as Seed)
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  /** Whether the stand-in mailbox runs too. */
  withMailbox: [false, { option: true }],
  running: [
    async ({}, use) => {
      const running: Running = { box: null, sites: null, withMailbox: false, host: null }
      await use(running)
      await stopRunning(running, 'box', 'sites')
      if (running.host !== null) await end(running.host.child)
    },
    { scope: 'worker' },
  ],
  box: async ({ seed, running, withMailbox }, use, info) => {
    if (running.withMailbox !== withMailbox) await stopRunning(running, 'box')
    const sites = (running.sites ??= await startSites(seed.folder, seed.ports))
    if (running.host === null || !isAlive(running.host.child)) running.host = startReceiverHost()
    const { host } = running
    const box = (running.box ??= await startBox({ from: seed.folder, ports: seed.ports, sites, host, withMailbox }))
    running.withMailbox = withMailbox
    const { receiver } = box
    const written = () => [box, sites].map(({ folder }) => writtenIn(folder))
    const before = written()
    await use(box)
    const isRunning = () => box.receiver === receiver && isAlive(receiver)
    // What the last page still sent is taken in before this is answered.
    if (isRunning()) await fetch(`${box.workshop}/page/nowhere`).catch(() => {})
    const hasPassed = info.status === info.expectedStatus
    const isAsBefore = written().map((text, at) => hasPassed && text === before[at])
    if (!isAsBefore[0] || !isRunning()) await stopRunning(running, 'box')
    if (!isAsBefore[1]) await stopRunning(running, 'sites')
  },
  /** Whether the workshop can be opened without the receiver: its service worker is let in, to a profile for this test alone. */
  withCopy: [false, { option: true }],
  /** A paired workshop that is not open yet, and closes before its box ends. Fails the test when anything there throws. */
  paired: async ({ browser, kept, seed, withCopy, box }, use, info) => {
    const page = (withCopy ? null : kept.owner) ?? (await newOwnersPage(browser, seed, box, withCopy))
    kept.owner = null
    const errors: string[] = []
    page.on('pageerror', (error) => errors.push(error.stack ?? error.message))
    await use(page)
    if (errors.length > 0) throw new Error(`The workshop threw: ${errors.join('; ')}`)
    const isKept = !withCopy && !page.isClosed() && info.status === info.expectedStatus
    if (isKept && (await answered(resetOwnersPage(page, box, info.project.use.viewport!)))) kept.owner = page
    else await page.context().close()
  },
  /** The same, open on its Desk. */
  workshop: async ({ paired, box }, use) => {
    await paired.goto(box.workshop)
    await onDesk(paired)
    await use(paired)
  },
})

/** The demo as a receiver keeps it on its own ports, which its journal names, and as a paired browser has pulled it. */
async function makeSeed(browser: Browser, folder: string): Promise<Seed> {
  const box = await startBox()
  const profile = await pairedProfile(browser, box)
  await box.end()
  mkdirSync(dirname(folder), { recursive: true })
  cpSync(box.folder, folder, { recursive: true })
  rmSync(box.folder, { recursive: true, force: true })
  const ports = [box.workshop, box.sites].map((address) => Number(new URL(address).port)) as Ports
  return { folder, ports, profile }
}

async function stopRunning(running: Running, ...parts: ('box' | 'sites')[]): Promise<void> {
  for (const part of parts) {
    const stopped = running[part]
    running[part] = null
    await stopped?.stop()
  }
}

/** What is written in a folder, as far as sizes and times tell: whoever answered a sign-up has written. */
function writtenIn(folder: string): string {
  try {
    return filesIn(folder)
  } catch {
    // A backup was being made: something is written just now.
    return `${performance.now()}`
  }
}

function filesIn(folder: string): string {
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

async function newOwnersPage(browser: Browser, seed: Seed, box: RunningBox, withCopy: boolean): Promise<Page> {
  const serviceWorkers = withCopy ? 'allow' : 'block'
  const context = await browser.newContext({ storageState: seed.profile, serviceWorkers })
  const page = await context.newPage()
  await page.goto(`${box.workshop}/health`)
  await page.evaluate(copyDatabase, [DATABASE, SEEDED] as const)
  return page
}

/** Makes a page as if new, but for scripts that were added for good: a test that does this opens a page of its own. */
async function resetOwnersPage(page: Page, box: RunningBox, viewport: ViewportSize): Promise<void> {
  for (const event of ['console', 'dialog', 'download', 'filechooser', 'pageerror', 'request', 'response'] as const)
    page.removeAllListeners(event)
  await page.unrouteAll()
  await clean(page, [box.sites])
  await page.emulateMedia({ colorScheme: null, media: null })
  await page.setViewportSize(viewport)
  // The workshop ends before its box does.
  await page.goto(`${box.workshop}/health`)
  await page.evaluate(copyDatabase, [SEEDED, DATABASE] as const)
}

async function withVisitorsPage(
  browser: Browser,
  kept: Kept,
  use: (page: Page) => Promise<void>,
  info: TestInfo,
): Promise<void> {
  const context = kept.visitor ?? (await browser.newContext())
  kept.visitor = null
  const blank = context.pages()[0] ?? (await context.newPage())
  const origins = new Set<string>()
  const note = (page: Page) =>
    page.on('framenavigated', (frame) => {
      if (/^https?:/.test(frame.url())) origins.add(new URL(frame.url()).origin)
    })
  context.on('page', note)
  await use(await context.newPage())
  context.off('page', note)
  if (info.status === info.expectedStatus && (await answered(clean(blank, [...origins])))) kept.visitor = context
  else await context.close()
}

/** Takes back whatever was done to a page's profile: pages beside it, routes, what origins keep, what was fetched. */
async function clean(page: Page, origins: string[]): Promise<void> {
  const context = page.context()
  await Promise.all(context.pages().map((other) => (other === page ? undefined : other.close())))
  await context.unrouteAll()
  await context.setOffline(false)
  await context.clearPermissions()
  await context.clearCookies()
  const session = await context.newCDPSession(page)
  for (const origin of origins) await session.send('Storage.clearDataForOrigin', { origin, storageTypes: 'all' })
  await session.detach()
}

/** Whether something comes to its end; a browser that does not answer any more is not asked again. */
function answered(what: Promise<void>): Promise<boolean> {
  return Promise.race([
    what.then(
      () => true,
      () => false,
    ),
    new Promise<false>((resolve) => setTimeout(resolve, 15_000, false)),
  ])
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
  await page.getByText('all saved').waitFor()
}

export { expect } from '@playwright/test'
