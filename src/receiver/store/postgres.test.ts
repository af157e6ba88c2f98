import { resolve } from 'node:path'
import { Worker } from 'node:worker_threads'
import { batchSuite } from '../../../tests/batch-suite'
import { signUp, storeSuite } from '../../../tests/store-suite'
import { change, site, spot, workspace } from '../../../tests/tables/samples'
import { mailJob, openLedger } from '../ledger'
import { LEASE_MS } from '../queue'
import { Rehearsals } from '../rehearsal'
import { openPostgresEngine, type PostgresConnection } from '.'
import type { Row } from './statements'

interface Told {
  id?: number
  error?: string
  rows?: Row[]
  changed?: number
  name?: string
  channel?: string
  told?: string
}

const worker = new Worker(resolve(__dirname, '../../../tests/postgres-worker.mjs'))
const answers = new Map<number, (told: Told) => void>()
const listeners = new Map<string, ((told: string) => void)[]>()
worker.on('message', (told: Told) => {
  if (told.id !== undefined) answers.get(told.id)?.(told)
  else for (const heard of listeners.get(`${told.name} ${told.channel}`) ?? []) heard(told.told!)
})
afterAll(() => worker.terminate())

let asked = 0
function ask(name: string, act: 'query' | 'listen', text: string, values: unknown[] = []): Promise<Told> {
  const id = ++asked
  return new Promise((answer, refuse) => {
    answers.set(id, (told) => {
      answers.delete(id)
      if (told.error === undefined) answer(told)
      else refuse(new Error(told.error))
    })
    worker.postMessage({ id, name, act, text, values })
  })
}

function connect(name: string): PostgresConnection {
  return {
    async query(text, values) {
      const { rows = [], changed = 0 } = await ask(name, 'query', text, values)
      return { rows, changed }
    },
    async listen(channel, heard) {
      listeners.set(`${name} ${channel}`, [...(listeners.get(`${name} ${channel}`) ?? []), heard])
      await ask(name, 'listen', channel)
    },
    close: () => Promise.resolve(),
  }
}

let places = 0
storeSuite('PostgreSQL', {
  open: (place) => openPostgresEngine(connect(place)),
  newPlace: () => `place ${++places}`,
})

batchSuite(
  'PostgreSQL',
  {
    open: (place) => openPostgresEngine(connect(place)),
    newPlace: () => `place ${++places}`,
  },
  // Making a store takes seconds there.
  3,
)

test('two receivers share one store: one order, what one publishes the other shows, no job in two hands, no rehearsal dropped', async () => {
  let time = Date.parse('2026-03-01T12:00:00.000Z')
  const place = `place ${++places}`
  const open = async () => openLedger(await openPostgresEngine(connect(place)), () => time)
  const one = await open()
  await one.seed(workspace)
  const rehearsal = (await new Rehearsals(one, () => time).start(spot.id))!
  await rehearsal.space.signUp(signUp('made-up@rehearsal.example'), 'a')
  const other = await open()
  expect(await new Rehearsals(other, () => time).get(rehearsal.code)).toMatchObject({ spot: spot.id })
  expect((await other.space(rehearsal.code).known('made-up@rehearsal.example')).arrivals).toHaveLength(1)

  for (const [at, ledger] of [one, other, one, other].entries())
    await ledger.signUp(signUp(`a${at}@m.example`), `${at}`)
  expect((await other.entriesAfter(0, null, 10))!.items.map(({ n }) => n)).toEqual([1, 2, 3, 4])
  expect(await other.signUp(signUp('a0@m.example'), '0')).toMatchObject({ repeated: true, verdict: 'joined' })

  const heard = new Promise<void>((resolve) => other.onNews(resolve))
  const { revision } = (await one.objectsAfter(0, null, 100))!.items.find(({ kind }) => kind === 'site')!
  await one.takeChanges([change('site', { ...site, name: 'Renamed' }, revision)])
  await heard
  expect(other.published().site(site.id)?.name).toBe('Renamed')

  const recipient = { typed: 'a@m.example', compared: 'a@m.example' }
  const job = mailJob({ list: workspace.lists[0]!.id, member: '', kind: 'notice', recipient }, time)
  await one.queue.add(job)
  expect([await one.queue.take(job.id), await other.queue.take(job.id)]).toEqual([true, false])
  // Whoever ended without a word lets go of it.
  time += LEASE_MS / 2
  await one.queue.holdOn()
  time += LEASE_MS / 2
  expect([await other.queue.due('mail', 10), await other.queue.take(job.id)]).toEqual([[], false])
  time += LEASE_MS
  expect(await other.queue.take(job.id)).toBe(true)
  await one.close()
  await other.close()
})
