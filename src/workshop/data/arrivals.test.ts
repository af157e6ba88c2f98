import 'fake-indexeddb/auto'
import fc from 'fast-check'
import { createPinia, disposePinia, setActivePinia } from 'pinia'
import { watch } from 'vue'
import type { JournalId } from '#core/ids'
import type { Arrival, Entry } from '#core/journal'
import { form, list, spot, version } from '../../../tests/tables/samples'
import { database, emptyDatabase, takeEntries, useArrivals, writeSetting } from '.'

const JOURNAL = 'journal1' as JournalId
const DAY_MS = 86_400_000
const now = Date.now()

/** Two years: sign-ups, then people who confirmed, then sign-ups again, of which the last hundred came in these weeks. */
const COUNT = 1_200
const entries = Array.from({ length: COUNT }, (_, at): Entry => {
  const n = at + 1
  const daysAgo = n <= COUNT - 100 ? 730 - n / 2 : (COUNT - n) / 2
  const common = { n, at: new Date(now - daysAgo * DAY_MS).toISOString(), list: list.id, member: `member${n}` as never }
  return n > 300 && n <= 700
    ? { ...common, kind: 'member-confirmed', id: `confirmed${n}` as never }
    : {
        ...{ ...common, kind: 'arrival', id: `arrival${n}` as never, verdict: 'joined', version: version.number },
        ...{ spot: spot.id, form: form.id, personal: null },
      }
})
const since = new Date(now - 64 * DAY_MS).toISOString()
const arrivals = entries.filter((entry): entry is Arrival => entry.kind === 'arrival')
const recent = arrivals.filter(({ at }) => at >= since).map(({ n }) => n)
const newest = arrivals
  .slice(-20)
  .map(({ n }) => n)
  .reverse()

afterAll(() => database.close())

test('property: however a journal comes here, the Desk shows the newest sign-ups, and counts those of the last weeks, each once', async () => {
  expect(recent.length).toBeGreaterThan(20)
  await fc.assert(
    fc.asyncProperty(fc.uniqueArray(fc.integer({ min: 1, max: 1_199 }), { maxLength: 8 }), async (cuts) => {
      await emptyDatabase()
      await writeSetting('journal', { id: JOURNAL, cursor: 0, mark: '' })
      const pinia = createPinia()
      setActivePinia(pinia)
      const store = useArrivals()
      const ends = [...cuts.toSorted((one, other) => one - other), entries.length]
      for (const [at, end] of ends.entries()) await takeEntries(JOURNAL, entries.slice(ends[at - 1] ?? 0, end))
      await new Promise<void>((resolve) => {
        watch(
          () => store.newest?.[0]?.n === COUNT,
          (isRead) => isRead && resolve(),
          { immediate: true },
        )
      })
      expect(store.newest?.map(({ n }) => n)).toEqual(newest)
      expect(store.kept.map(({ n }) => n)).toEqual(recent)
      disposePinia(pinia)
    }),
    { numRuns: 25 },
  )
})
