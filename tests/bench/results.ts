import { chromium } from '@playwright/test'
import type { SpotId } from '#core/ids'
import { dayAfter, devices, type SeenHour, type SeenRow } from '#core/results'
import { openLedger } from '../../src/receiver/ledger'
import { newView } from '../../src/receiver/results/view-notes'
import { openStore } from '../../src/receiver/subjects'
import { asked, changeSpot, objectsOf } from '../api'
import { chromiumLaunch } from '../chromium'
import { end, startBox } from '../programs'
import { load } from './load'

const SPOT = 'firstfrost' as SpotId
const ROUNDS = 3

export interface SeenFigures {
  perSecond: number
  failed: number
  /** Sign-ups at 200 a second beside 2,000 views a second, to those without; and the middle of their answers. */
  busy: number
  wait: number
}

/** Views at 2,000 a second, and sign-ups beside them. */
export async function measureSeen(): Promise<SeenFigures> {
  const box = await startBox()
  try {
    const base = box.workshop.replace('localhost', '127.0.0.1')
    // The receiver tells nobody its own keys: one of before is brought in beside them.
    const plain = 'A'.repeat(43)
    await asked(box, '/keys/links/open', { plain })
    const note = () => newView({ newest: () => plain, accepted: () => [plain] }, SPOT, 1, Date.now()).note
    const signUps = () => load(`${base}/join/${SPOT}`, { seconds: 5, connections: 20, rate: 200 })
    const views = () =>
      load(`${base}/seen/${SPOT}`, {
        ...{ seconds: 5, connections: 64, rate: 2_000, type: 'text/plain;charset=UTF-8' },
        body: (number) =>
          JSON.stringify({
            forms: [{ spot: SPOT, view: note(), isSeen: true, isStarted: number % 4 === 0 }],
            ...{
              width: 400 + (number % 900),
              cameFrom: { source: '', campaign: '', referrer: `https://site${number % 7}.example/` },
            },
          }),
      })
    await signUps()
    const rounds: SeenFigures[] = []
    for (let round = 1; round <= ROUNDS; round++) {
      const calm = await signUps()
      const [busy, seen] = await Promise.all([signUps(), views()])
      rounds.push({
        perSecond: seen.perSecond,
        failed: seen.failed + busy.failed,
        busy: busy.perSecond / calm.perSecond,
        wait: busy.percentile(50) / calm.percentile(50),
      })
    }
    const middle = (part: keyof SeenFigures) => rounds.map((one) => one[part]).sort((a, b) => a - b)[ROUNDS >> 1]!
    return {
      perSecond: middle('perSecond'),
      failed: Math.max(...rounds.map(({ failed }) => failed)),
      busy: middle('busy'),
      wait: middle('wait'),
    }
  } finally {
    await box.stop()
  }
}

const DAYS = 60
const SPOTS = 200
const VIEWS = 10_000_000

/** Results of 60 days, 200 spots and ten million views: until all is shown, and until another form is; in milliseconds. */
export async function measureResults(): Promise<{ opened: number; filtered: number }> {
  const box = await startBox()
  const browser = await chromium.launch(chromiumLaunch)
  try {
    const { body } = (await objectsOf(box, 'spot')).find(({ key }) => key === SPOT)!
    const spots: SpotId[] = []
    for (let at = 0; at < SPOTS; at += 1) {
      const id = `benchspot${at}` as SpotId
      await changeSpot(box, id, { ...body!, id, code: 'script' })
      spots.push(id)
    }
    await end(box.receiver)
    const ledger = await openLedger(await openStore(box.folder), Date.now)
    const today = new Date().toISOString().slice(0, 10)
    const sources = ['', 'search.example', 'poster']
    const views = Math.round(VIEWS / (DAYS * SPOTS * devices.length * sources.length))
    for (let ago = 0; ago < DAYS; ago += 1) {
      const day = dayAfter(today, -ago)
      const rows = spots.flatMap((spot) =>
        devices.flatMap((device) =>
          sources.map((source): Required<SeenRow> => ({
            day,
            spot,
            version: 1,
            source,
            device,
            views,
            starts: views >> 2,
            setAside: 0,
          })),
        ),
      )
      const hours = spots.flatMap((spot) =>
        Array.from({ length: 24 }, (_, hour): SeenHour => ({ day, hour, spot, views: views >> 1 })),
      )
      await ledger.results.add(rows, hours)
    }
    await ledger.close()
    await box.restart()
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    page.setDefaultTimeout(120_000)
    await page.goto(box.pairing)
    await page.getByText('all saved').waitFor()
    // As they are opened from a Desk at rest: the first pull is another figure.
    await page.getByText('joined in 7 days').first().waitFor()
    await page.waitForTimeout(3_000)
    const timed = async (work: () => Promise<unknown>) => {
      const start = performance.now()
      await work()
      return performance.now() - start
    }
    const opened = await timed(async () => {
      await page.getByRole('link', { name: 'Results' }).click()
      await page
        .getByRole('img', { name: /Sign-ups by day/ })
        .locator('.apexcharts-svg')
        .waitFor()
      await page.locator('.rate').nth(24).waitFor({ state: 'attached' })
    })
    const filtered = await timed(async () => {
      await page.getByRole('tab', { name: 'By source' }).click()
      await page.getByRole('row', { name: /poster/ }).waitFor()
    })
    return { opened, filtered }
  } finally {
    await browser.close()
    await box.stop()
  }
}
