import { chromium, type Page } from '@playwright/test'
import type { Entry } from '#core/journal'
import { chromiumLaunch } from '../chromium'
import { messyFile } from '../e2e/messy-file'
import { end, startBox, type RunningBox } from '../programs'

export const LIST = 'membersletter'
const BATCH = 5_000

/** What a workshop with a crowd takes to be read, in milliseconds, and entries a second of the first pull. */
export interface ReadingFigures {
  pulledPerSecond: number
  desk: number
  list: number
  /** Of each key of a search, in order of size. */
  search: number[]
  arrival: number
  edit: number
  filter: number
}

/** The same, and what a change of all of them and a file tried against them take; see `measureCrowd`. */
export interface CrowdFigures extends ReadingFigures {
  bulkTag: number
  dryRun: number
  /** The page's longest task while a file was tried. */
  longest: number
}

/** Fills the demo's receiver with sign-ups of `count` people more, over two years up to now. */
export async function addCrowd(box: Pick<RunningBox, 'workshop' | 'key'>, count: number): Promise<void> {
  const headers = { Authorization: `Bearer ${box.key}`, 'Content-Type': 'application/json' }
  const { journal, latest } = (await (await fetch(`${box.workshop}/api/receiver`, { headers })).json()) as {
    journal: string
    latest: number
  }
  const start = Date.now() - 2 * 365 * 86_400_000
  for (let from = 0; from < count; from += BATCH) {
    const entries = Array.from({ length: Math.min(BATCH, count - from) }, (_, at): Entry => {
      const number = from + at
      const typed = `Person.${number.toString(36)}@mail${number % 97}.example`
      return {
        n: latest + number + 1,
        at: new Date(start + (number * 2 * 365 * 86_400_000) / count).toISOString(),
        kind: 'arrival',
        id: `arrival${number}` as never,
        spot: 'firstfrost' as never,
        form: 'blogletterform' as never,
        version: 1,
        list: LIST as never,
        verdict: 'joined',
        member: `crowd${number}` as never,
        personal: {
          email: { typed, compared: typed.toLowerCase() },
          values: { 'first-name': `Name${number % 500}` },
          tags: [],
          consents: [],
          page: 'https://blog.cloudberryhill.example/posts/first-frost',
        },
      }
    })
    const response = await fetch(`${box.workshop}/api/refill`, {
      method: 'POST',
      headers,
      body: JSON.stringify({ journal, entries }),
    })
    if (!response.ok) throw new Error(await response.text())
  }
}

/**
 * Opens a workshop on a receiver with a crowd and times what its owner waits for, in Chromium.
 *
 * @param databaseUrl a database server that the receiver keeps all in; its own file where not given
 */
export const measureCrowd = (count: number, databaseUrl?: string): Promise<CrowdFigures> =>
  withCrowd(count, databaseUrl, async (page, box) => ({
    ...(await reading(page, box, count)),
    ...(await changing(page, box)),
  }))

/** The same as far as it is read: of a million, the rest takes minutes. */
export const measureReading = (count: number, databaseUrl?: string): Promise<ReadingFigures> =>
  withCrowd(count, databaseUrl, (page, box) => reading(page, box, count))

async function withCrowd<Figures>(
  count: number,
  databaseUrl: string | undefined,
  measure: (page: Page, box: RunningBox) => Promise<Figures>,
): Promise<Figures> {
  const box = await startBox(databaseUrl === undefined ? {} : { databaseUrl })
  const browser = await chromium.launch(chromiumLaunch)
  try {
    await addCrowd(box, count)
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    page.setDefaultTimeout(Math.max(180_000, count))
    return await measure(page, box)
  } finally {
    await browser.close()
    await end(box.receiver)
    await box.stop()
  }
}

async function timed(work: () => Promise<unknown>): Promise<number> {
  const start = performance.now()
  await work()
  return performance.now() - start
}

async function reading(page: Page, box: RunningBox, count: number): Promise<ReadingFigures> {
  const pull = await timed(async () => {
    await page.goto(box.pairing)
    await page.getByText('all saved').waitFor()
  })
  const desk = await timed(async () => {
    await page.goto(box.workshop)
    await page.getByText('joined in 7 days').first().waitFor()
    await page.locator('ol li').first().waitFor()
  })
  const list = await timed(async () => {
    await page.goto(`${box.workshop}/lists/${LIST}`)
    await page.getByRole('row').nth(10).waitFor()
  })
  // From here on everybody is in memory.
  await page.getByRole('status').filter({ hasText: 'people' }).waitFor()
  await page.waitForTimeout(3_000)
  const search: number[] = []
  const field = page.getByLabel('Find an address')
  await field.focus()
  await page.evaluate(() => {
    const times: number[] = []
    Object.assign(window, { searchTimes: times })
    const input = document.querySelector('input[type=search]')!
    let start = 0
    input.addEventListener('keydown', () => (start = performance.now()), true)
    input.addEventListener('input', () =>
      requestAnimationFrame(() => {
        void document.body.offsetHeight
        times.push(performance.now() - start)
      }),
    )
  })
  for (const key of 'person.2s@mail') await page.keyboard.press(key)
  search.push(...(await page.evaluate(() => (window as unknown as { searchTimes: number[] }).searchTimes)))
  await field.fill('')
  const arrival = await page.evaluate(
    async ([address]) => {
      const shown = new Promise<number>((resolve) => {
        const observer = new MutationObserver(() => {
          if (!document.querySelector('[role=row]:has([aria-label*="just-now"])')) return
          observer.disconnect()
          resolve(performance.now())
        })
        observer.observe(document.body, { subtree: true, childList: true, characterData: true, attributes: true })
      })
      const response = await fetch(address!, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ email: 'just-now@mail.example' }),
      })
      if (response.status !== 200) throw new Error(String(response.status))
      // From the answer on: until then it is the receiver's time.
      const answered = performance.now()
      return (await shown) - answered
    },
    [`${box.workshop}/join/firstfrost`],
  )
  await page.getByRole('button', { name: 'Change just-now@mail.example' }).click()
  await page.getByLabel('First name').fill('Justine')
  await page.evaluate(() => {
    let start = 0
    document.addEventListener('click', () => (start = performance.now()), { capture: true, once: true })
    const observer = new MutationObserver(() => {
      if (![...document.querySelectorAll('[role=cell]')].some((cell) => cell.textContent?.includes('Justine'))) return
      observer.disconnect()
      Object.assign(window, { editTime: performance.now() - start })
    })
    observer.observe(document.body, { subtree: true, childList: true, characterData: true })
  })
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await page.waitForFunction(() => 'editTime' in window)
  const edit = await page.evaluate(() => (window as unknown as { editTime: number }).editTime)
  const filter = await timed(async () => {
    await page.getByRole('button', { name: /^Gone/ }).click()
    await page
      .getByRole('status')
      .filter({ hasText: /^\d{1,3} p/ })
      .waitFor()
  })
  search.sort((one, other) => one - other)
  return { pulledPerSecond: (count / pull) * 1000, desk, list, search, arrival, edit, filter }
}

async function changing(page: Page, box: RunningBox): Promise<Omit<CrowdFigures, keyof ReadingFigures>> {
  await page.getByRole('button', { name: /^Everybody/ }).click()
  await page
    .getByRole('status')
    .filter({ hasText: /^[\d,]{7,} people$/ })
    .waitFor()
  await page.getByRole('checkbox', { name: 'Choose all who are found' }).check({ force: true })
  await page.getByRole('region', { name: 'What to do' }).getByRole('button', { name: 'Tags' }).click()
  await page.getByLabel('The tag').fill('bench')
  const bulkTag = await timed(async () => {
    await page.getByRole('button', { name: 'Give it' }).click()
    await page.getByText(/people tagged “bench”/).waitFor()
  })
  await page.goto(`${box.workshop}/lists/${LIST}/import`)
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'messy.csv', mimeType: 'text/csv', buffer: Buffer.from(messyFile(20_000)) })
  await page.getByRole('heading', { name: 'What is in it' }).waitFor()
  // The worker has everybody before it begins.
  await page.waitForTimeout(5_000)
  await page.evaluate(() => {
    const tasks: number[] = []
    new PerformanceObserver((list) => tasks.push(...list.getEntries().map(({ duration }) => duration))).observe({
      type: 'longtask',
    })
    Object.assign(window, { longTasks: tasks })
  })
  const dryRun = await timed(async () => {
    await page.getByRole('button', { name: 'See what it would do' }).click()
    await page.getByRole('heading', { name: 'What it would do' }).waitFor()
  })
  const longest = await page.evaluate(() => Math.max(0, ...(window as unknown as { longTasks: number[] }).longTasks))
  return { bulkTag, dryRun, longest }
}
