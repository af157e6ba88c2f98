import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createRoute, z } from '@hono/zod-openapi'
import { receiverApp } from './app'
import { openClock } from './clock'
import { handOverParts } from './hand-over'
import { type Ledger, openLedger } from './ledger'
import { mailParts } from './mail'
import { Metrics } from './metrics'
import { OwnerKeys, sealingWith } from './secrets'
import { openCare } from './care'
import { Rehearsals } from './rehearsals'
import { bound, type SubjectTables } from './store'
import type { ReceiverParts, Subject } from './subject'
import { type Engine, openStore, subjects } from './subjects'
import { Lane, runRecurring } from './work'
import { openJob } from './work/tables'
import * as samples from '../../tests/tables/samples'
import { settingsFor } from '../../tests/ledger'

/*
 * A kind of work that nobody has thought of: notes that an owner leaves, each counted by a worker, and forgotten after a
 * while. All that it is stands here; the receiver goes by the list of subjects alone.
 */
interface NoteQueries {
  note(id: string, at: number): Promise<void>
  noteCounted(id: string): Promise<void>
  notes(): Promise<{ id: string; counted: number }[]>
  forgetNotes(before: number): Promise<void>
}
const noteTables: SubjectTables<NoteQueries> = {
  migrations: {
    '002-notes': {
      up: (db) =>
        db.schema
          .createTable('notes')
          .addColumn('id', 'text', (column) => column.primaryKey())
          .addColumn('at', 'bigint', (column) => column.notNull())
          .addColumn('counted', 'integer', (column) => column.notNull())
          .execute(),
    },
  },
  queries({ over, prepare }) {
    const tables = over<{ notes: { id: string; at: number; counted: number } }>()
    const add = prepare(tables.insertInto('notes').values({ id: bound, at: bound, counted: bound }))
    const count = prepare(tables.updateTable('notes').set({ counted: 1 }).where('id', '=', bound))
    const all = prepare(tables.selectFrom('notes').select(['id', 'counted']).orderBy('id'))
    const forget = prepare(tables.deleteFrom('notes').where('at', '<', bound))
    return {
      note: async (id, at) => void (await add.run(id, at, 0)),
      noteCounted: async (id) => void (await count.run(1, id)),
      notes: async () => (await all.all()) as { id: string; counted: number }[],
      forgetNotes: async (before) => void (await forget.run(before)),
    }
  },
}
const DAY_MS = 86_400_000
const leaveNote = createRoute({
  method: 'post',
  path: '/notes/{id}',
  request: { params: z.object({ id: z.string() }) },
  responses: { 204: { description: 'Left.' } },
})
/** @param engine where its table is asked */
const notes = (engine: () => Engine): Subject => {
  const run = <T>(work: (queries: NoteQueries) => Promise<T>) =>
    engine().run((transaction) => work(transaction as unknown as NoteQueries))
  return {
    name: 'notes',
    tables: [noteTables],
    workers: ({ ledger, clock }) => {
      const work = async ([job]: Parameters<ConstructorParameters<typeof Lane>[2]['work']>[0]) => {
        await run((queries) => queries.noteCounted(job!.body as string))
        await ledger.queue.settle(job!.id, { state: 'done', said: '' })
        return 0
      }
      const lane = new Lane(ledger.queue, clock.now, {
        ...{ worker: 'notes', ready: async () => ({ most: 1 }), work, stopMs: 1_000 },
      })
      return [{ start: () => lane.start(ledger.onNews) }]
    },
    jobs: ({ clock }) => [
      {
        ...{ name: 'old notes', everyMs: DAY_MS, firstAfterMs: 0, longestMs: 1_000 },
        run: () => run((queries) => queries.forgetNotes(clock.now() - DAY_MS)),
      },
    ],
    routes: (routes, { ledger, clock }) =>
      routes.openapi(leaveNote, async (c) => {
        const { id } = c.req.valid('param')
        const due = clock.now()
        await run((queries) => queries.note(id, due))
        await ledger.queue.add(openJob({ id: `note ${id}`, worker: 'notes', body: id }, due))
        return c.body(null, 204)
      }),
  }
}

let folder: string
let ledger: Ledger
beforeEach(() => void (folder = mkdtempSync(join(tmpdir(), 'subjects-'))))
afterEach(async () => {
  await ledger.close()
  rmSync(folder, { recursive: true, force: true })
})

test('a kind of work is added as one subject: its table, its worker, its job and its path in the API', async () => {
  const opened: { engine?: Engine } = {}
  const all = [...subjects, notes(() => opened.engine!)]
  const engine = (opened.engine = await openStore(folder, undefined, all))
  ledger = await openLedger(engine, Date.now)
  await ledger.seed(samples.workspace)
  const asked = () => engine.now as unknown as NoteQueries
  await engine.run((transaction) => (transaction as unknown as NoteQueries).note('an old one', 0))

  const settings = settingsFor({}, folder)
  const clock = openClock(Date.now, () => performance.now(), null)
  const rehearsals = new Rehearsals(ledger, clock.now)
  const parts: ReceiverParts = {
    ...{ ledger, settings, clock, rehearsals, browsers: null, program: () => undefined },
    keys: new OwnerKeys(ledger.values, 'the-owners-own-key', clock.now),
    mail: mailParts({ ledger, settings, rehearsals, clock }),
    handOver: handOverParts({ ledger, settings, sealing: sealingWith(() => 'secret'), now: clock.now }),
    care: openCare({ ledger, settings, now: clock.now }),
    metrics: new Metrics(),
    mover: null,
    stopping: new AbortController().signal,
  }
  const app = receiverApp({ ...parts, all, ownerKey: 'the-owners-own-key', workshop: null })
  const headers = { Authorization: 'Bearer the-owners-own-key' }
  expect((await app.request('/api/notes/one', { method: 'POST' })).status).toBe(401)
  expect((await app.request('/api/notes/one', { method: 'POST', headers })).status).toBe(204)
  expect(Object.keys((await (await app.request('/api/openapi.json')).json()).paths)).toContain('/api/notes/{id}')

  const stops = all.flatMap(({ workers }) => workers?.(parts) ?? []).map((worker) => worker.start())
  const stopJobs = runRecurring(all.find(({ name }) => name === 'notes')!.jobs!(parts), ledger.values, clock.now)
  const isDone = async () => JSON.stringify(await asked().notes()) === JSON.stringify([{ id: 'one', counted: 1 }])
  while (!(await isDone())) await new Promise((go) => setTimeout(go, 10))
  await stopJobs()
  await Promise.all(stops.map((stop) => stop()))
})

test('two subjects neither share a migration nor the name of a query', async () => {
  ledger = await openLedger(await openStore(folder), Date.now)
  const twice = { ...notes(() => null as never), name: 'notes again' }
  for (const all of [
    [...subjects, twice, twice],
    [
      ...subjects,
      {
        ...twice,
        tables: [noteTables, { ...noteTables, migrations: {} }],
      },
    ],
  ])
    await expect(openStore(mkdtempSync(join(folder, 'other-')), undefined, all)).rejects.toThrow(/^Two /)
})
