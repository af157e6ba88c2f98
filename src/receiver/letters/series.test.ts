import type { SeriesId } from '#core/ids'
import type { Series } from '#core/letter'
import { richText } from '#core/text'
import { type LetterGround, letterGround } from '../../../tests/letter-ground'
import { aLetter, aSending } from '../../../tests/letters'
import * as samples from '../../../tests/tables/samples'

const HOUR_MS = 3_600_000
let ground: LetterGround
beforeEach(async () => {
  ground = await letterGround()
})
afterEach(() => ground.end())

const step = (id: string, days: number, time = '09:00', subject = id) => {
  const { preview, isPlain, blocks } = aLetter()
  return { id, days, time, body: { subject: richText(subject), preview, isPlain, blocks } }
}
let revision = 0
async function publish(changes: Partial<Series['draft']> = {}, isPaused = false): Promise<void> {
  const draft: Series['draft'] = {
    ...{ name: 'First weeks', list: samples.list.id, tag: '', includesThoseThere: false, zone: 'UTC' },
    steps: [step('one', 1), step('three', 3)],
    ...changes,
  }
  const id = 'sampleseries' as SeriesId
  const body: Series = { id, createdAt: samples.createdAt, draft, published: draft, isPaused }
  const [outcome] = await ground.ledger.takeChanges([samples.change('series', body, revision)])
  if (!outcome!.ok) throw new Error(JSON.stringify(outcome))
  revision = outcome!.revision
  await ground.rests()
}
beforeEach(() => (revision = 0))

/** Goes on by the hour; who got what, and when. */
async function after(days: number): Promise<string[]> {
  const got: string[] = []
  for (let hour = 0; hour < days * 24; hour += 1) {
    ground.pass(HOUR_MS)
    await ground.rests()
    for (const { to, mail } of ground.sent.splice(0))
      got.push(`${to.split('@')[0]} ${String(mail.subject)} ${new Date(ground.now()).toISOString().slice(5, 13)}`)
  }
  return got
}
const idOf = async (name: string) =>
  (await ground.ledger.letters.people(samples.list.id, 0, 100)).find(({ member }) =>
    member.email.typed.startsWith(name),
  )!.member.id

test('who joins after it was begun gets each letter on its day, at the hour of their own clocks, and nobody from before', async () => {
  await ground.joins('before@mail.example')
  await publish()
  await ground.joins('ada@mail.example')
  await ground.joins('tokyo@mail.example', { whereabouts: { country: '', zone: 'Asia/Tokyo' } })
  // They join on 2 March at 10:00 UTC, 19:00 in Tokyo.
  expect(await after(5)).toEqual([
    'tokyo one 03-03T00',
    'ada one 03-03T09',
    'tokyo three 03-05T00',
    'ada three 03-05T09',
  ])
  expect(await ground.ledger.letters.seriesState('sampleseries')).toEqual({ going: 0, done: 2, next: {} })
})

test('those who are there begin too where its owner says so', async () => {
  await ground.joins('before@mail.example')
  await publish({ includesThoseThere: true })
  expect(await after(2)).toEqual(['before one 03-03T09'])
})

test('a receiver that is filled begins no series by itself, for those who are there neither; who joins after it does', async () => {
  for (const name of ['old', 'older']) await ground.joins(`${name}@mail.example`)
  const history = (await ground.ledger.entriesAfter(0, null, 100))!.items
  const journal = await ground.ledger.journalId()
  await ground.end()
  ground = await letterGround()
  // What the owner made goes before what happened.
  await publish({ includesThoseThere: true })
  expect(await ground.ledger.refill(journal, history)).toMatchObject({ ok: true })
  await ground.rests()
  await ground.joins('new@mail.example')
  expect((await after(5)).map((mail) => mail.split(' ').slice(0, 2).join(' '))).toEqual(['new one', 'new three'])
})

test('changed while people are in it, each goes on from where they are, with the words of then', async () => {
  await publish()
  await ground.joins('ada@mail.example')
  expect(await after(1.5)).toEqual(['ada one 03-03T09'])
  await ground.joins('ben@mail.example')
  await publish({
    steps: [step('zero', 0, '08:00'), step('one', 1), step('two', 2), step('three', 3, '09:00', 'mended')],
  })
  expect((await after(4)).sort(byTime)).toEqual([
    // What was put in before where she is, is not for her; he has not begun.
    ...['ben zero 03-03T23', 'ada two 03-04T09', 'ben one 03-04T09', 'ada mended 03-05T09', 'ben two 03-05T09'],
    'ben mended 03-06T09',
  ])
})

test('who leaves, leaves it; who comes back gets no letter twice; a series for a tag is for who has it', async () => {
  await publish({ tag: 'visits' })
  await ground.joins('ada@mail.example', { tags: ['visits'] })
  await ground.joins('ben@mail.example')
  expect(await after(1)).toEqual(['ada one 03-03T09'])
  await ground.ledger.leave(await idOf('ada'), 'page')
  expect(await after(4)).toEqual([])
  await ground.ledger.comeBack(await idOf('ada'))
  expect(await after(4)).toEqual(['ada three 03-10T09'])
})

test('paused, nobody gets any; what was due meanwhile goes when it goes on, and before a letter of the same day', async () => {
  await publish()
  await ground.joins('ada@mail.example')
  await publish({}, true)
  expect(await after(2)).toEqual([])
  await publish({}, false)
  expect(await after(1)).toEqual(['ada one 03-04T11', 'ada three 03-05T09'])
})

test('of a letter and a series’ message of one day both go, the series first', async () => {
  await publish()
  await ground.joins('ada@mail.example')
  await ground.sender.change(() => ({ isStopped: true }))
  await ground.ledger.letters.send(aSending())
  for (let hour = 0; hour < 24; hour += 1) {
    ground.pass(HOUR_MS)
    while ((await ground.ledger.letters.work()) === 0);
    await ground.ledger.letters.work()
  }
  await ground.sender.change(() => ({ isStopped: false }))
  await ground.rests()
  expect(ground.sent.map(({ mail }) => mail.subject)).toEqual(['one', 'Clear skies on Friday'])
})

const byTime = (one: string, other: string) => one.slice(-8).localeCompare(other.slice(-8)) || one.localeCompare(other)
