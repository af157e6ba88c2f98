import { batchSuite } from '../../../tests/batch-suite'
import { type PostgresServer, startPostgres } from '../../../tests/postgres-server'
import { signUp, storeSuite } from '../../../tests/store-suite'
import { change, site, spot, workspace } from '../../../tests/tables/samples'
import { openLedger } from '../ledger'
import { mailJob } from '../mail/queued'
import { LEASE_MS } from '../work'
import { Rehearsals } from '../rehearsals'
import { subjects, tablesOf, type Transaction } from '../subjects'
import { openPostgresEngine } from '.'

let server: PostgresServer
beforeAll(async () => (server = await startPostgres()))
afterAll(() => server.stop())

const open = async (place: string) => openPostgresEngine<Transaction>(await server.address(place), tablesOf(subjects))
let places = 0
const engines = { open, newPlace: () => `place ${++places}` }
storeSuite('PostgreSQL', engines)
batchSuite('PostgreSQL', engines)

test('two receivers share one store: one order, what one publishes the other shows, no job in two hands, no rehearsal dropped', async () => {
  let time = Date.parse('2026-03-01T12:00:00.000Z')
  const place = engines.newPlace()
  const openAgain = async () => openLedger(await open(place), () => time)
  const one = await openAgain()
  await one.seed(workspace)
  const rehearsal = (await new Rehearsals(one, () => time).start(spot.id))!
  await rehearsal.space.signUp(signUp('made-up@rehearsal.example'), 'a')
  const other = await openAgain()
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
