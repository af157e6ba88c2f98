import type { MailOnList } from '#core/api'
import type { Entry } from '#core/journal'
import type { List } from '#core/list'
import { type Names, timelineOf } from './timeline'

const names: Names = {
  list: { columns: [{ key: 'first-name', label: 'First name' }] } as List,
  form: () => 'Our letter',
  spot: () => 'the blog',
  frameAt: () => null,
  otherList: () => 'Alerts',
  batch: () => null,
  key: (id) => (id === 'anna' ? 'Anna' : null),
}
const email = { typed: 'Ada@m.example', compared: 'ada@m.example' }
const all = [
  {
    kind: 'arrival',
    verdict: 'confirm-first',
    version: 2,
    personal: {
      email,
      values: { 'first-name': 'Ada' },
      tags: ['Comets'],
      consents: [{ field: 'consent', wording: 'Yes, write to me.' }],
      cameFrom: { source: 'poster' },
      region: 'DE',
      page: 'https://blog.example/a',
    },
  },
  { kind: 'member-confirmed' },
  { kind: 'member-edited', personal: { email, values: { 'first-name': 'Ada L.', town: 'Hill' }, tags: ['VIP'] } },
  { kind: 'member-noted', personal: { text: 'Rang.' }, by: 'anna' },
  { kind: 'member-noted', personal: null, commitment: 'x' },
  { kind: 'member-bounced', personal: { reason: '550 no' } },
  { kind: 'member-left', by: 'one-click' },
].map((entry, at) => ({ n: at + 1, at: `2026-03-0${at + 1}T10:00:00.000Z`, list: 'l', member: 'm', ...entry }) as Entry)
const mail = {
  id: 'mail1',
  kind: 'confirmation',
  state: 'sent',
  queued: 0,
  due: Date.parse('2026-03-01T10:00:05.000Z'),
  attempts: 1,
  said: '250 OK',
  recipient: 'Ada@m.example',
} as MailOnList

test('what happened to somebody is told newest first, with where from and in whose words', () => {
  expect(
    timelineOf({ entries: all, waiting: [] }, { mails: [mail], gift: { times: 0, last: 0 } }, names).map(
      ({ what, by, details }) => [what, by, ...details],
    ),
  ).toEqual([
    ['Left the list', 'person', 'By one press in the mail program.'],
    ['Takes no mail', 'itself', '“550 no”'],
    ['Your note', 'owner', 'erased'],
    ['A note by Anna', 'owner', 'Rang.'],
    [
      'Changed by you',
      'owner',
      'First name: Ada → Ada L.',
      'town: empty → Hill',
      'Tagged: VIP',
      'No longer tagged: Comets',
    ],
    ['Confirmed', 'person', 'Followed the link in the mail, and pressed the button there.'],
    ['Mail “Please confirm” sent', 'itself', 'To Ada@m.example.', 'The server said: “250 OK”'],
    [
      'Signed up, to be confirmed',
      'person',
      'Through “Our letter”, version 2, at the blog.',
      'On https://blog.example/a',
      'Came there: marked “poster”.',
      'First name: Ada',
      'Asked for: Comets',
      'Agreed to: “Yes, write to me.”',
      'Taken to be in DE.',
    ],
  ])
})

test('what is on its way to the receiver stands on top, and says so; of one moment, the later stands above', () => {
  const noted = { ...all[3]!, n: 8, at: all[6]!.at } as Entry
  const events = timelineOf(
    { entries: all, waiting: [noted] },
    { mails: [], gift: { times: 2, last: Date.parse('2020-01-01') } },
    names,
  )
  expect(events.map(({ what, isWaiting }) => [what, isWaiting]).slice(0, 2)).toEqual([
    ['A note by Anna', true],
    ['Left the list', undefined],
  ])
  expect(events.at(-1)).toMatchObject({ what: 'Fetched the gift', details: ['2 times until then.'], by: 'person' })
})
