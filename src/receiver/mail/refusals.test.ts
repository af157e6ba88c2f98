import fc from 'fast-check'
import type { MemberId } from '#core/ids'
import type { QueuedMail } from './queued'
import { Refusals } from './refusals'
import { refusalOf } from './transport'

const HOUR_MS = 60 * 60_000
const mailTo = (name: string) =>
  ({ id: `mail-${name}`, member: name as MemberId, compared: `${name}@m.example`, space: '' }) as QueuedMail
const answer = (text: string) =>
  refusalOf({ responseCode: Number(text.slice(0, 3)), response: text, command: 'RCPT TO' })
const NAMED = '550 5.1.1 No such user'
const BARE = '550 no'

/** What becomes of each refused mail, and what else follows, after one thing after the other. */
function after(...steps: (readonly [what: 'takes' | 'refuses', name: string, said?: string] | number)[]) {
  let now = 0
  const refusals = new Refusals(() => now)
  return steps.map((step) => {
    if (typeof step === 'number') return void (now += step)
    const [what, name, said = NAMED] = step
    now += 1
    if (what === 'takes') return refusals.takes(mailTo(name))
    const { consequence, everybody, overturned } = refusals.refused(mailTo(name), answer(said))
    return everybody === null ? consequence : { everybody: everybody.length, overturned }
  })
}

test.each<[string, Parameters<typeof after>, unknown]>([
  ['nobody was taken: it waits', [['refuses', 'a']], 'later'],
  [
    'somebody else was taken within the hour: marked',
    [
      ['takes', 'b'],
      ['refuses', 'a'],
    ],
    'mark',
  ],
  [
    'only they were taken: it waits',
    [
      ['takes', 'a'],
      ['refuses', 'a'],
    ],
    'later',
  ],
  [
    'somebody else was taken before them: marked',
    [
      ['takes', 'b'],
      ['takes', 'a'],
      ['refuses', 'a'],
    ],
    'mark',
  ],
  ['the hour is over: it waits', [['takes', 'b'], HOUR_MS, ['refuses', 'a']], 'later'],
  [
    'a bare 550 after somebody was taken: it waits',
    [
      ['takes', 'b'],
      ['refuses', 'a', BARE],
    ],
    'later',
  ],
  [
    'who waits is tried again once somebody is taken',
    [
      ['refuses', 'a', BARE],
      ['takes', 'b'],
    ],
    ['mail-a'],
  ],
  [
    'and marked then',
    [
      ['refuses', 'a', BARE],
      ['takes', 'b'],
      ['refuses', 'a', BARE],
    ],
    'mark',
  ],
  [
    'but once only: what is put off is not hurried',
    [
      ['refuses', 'a', BARE],
      ['takes', 'b'],
      ['takes', 'c'],
    ],
    [],
  ],
  [
    'who is taken meanwhile waits no more',
    [
      ['refuses', 'a', BARE],
      ['takes', 'a'],
      ['takes', 'c'],
    ],
    [],
  ],
  [
    'a 4xx is nobody’s refusal',
    [
      ['takes', 'b'],
      ['refuses', 'a', '450 4.2.1 busy'],
    ],
    'later',
  ],
  [
    'three in a row where nobody is taken: it is the sender',
    [
      ['refuses', 'a'],
      ['refuses', 'b'],
      ['refuses', 'c'],
    ],
    { everybody: 3, overturned: [] },
  ],
  [
    'the third in a row after somebody was taken waits',
    [
      ['takes', 'x'],
      ['refuses', 'a'],
      ['refuses', 'b'],
      ['refuses', 'c'],
    ],
    'later',
  ],
  [
    'the eighth is the sender, and the two that were marked are put back',
    [['takes', 'x'], ...[...'abcdefgh'].map((name) => ['refuses', name] as const)],
    { everybody: 8, overturned: ['a', 'b'] },
  ],
  [
    'one person refused eight times is one person',
    [['refuses', 'a'], ...[...'abcdefgh'].map(() => ['refuses', 'a'] as const)],
    'later',
  ],
])('%s', (_, steps, expected) => expect(after(...steps).at(-1)).toEqual(expected))

/*
 * Whole sendings: mails go in an order that is drawn, what waits is tried again an hour later, up to six times. The words
 * are as servers write them (common practice), with the status codes of RFC 3463.
 */
interface Person {
  name: string
  domain: string
  /** What is said to the try with this number, counted over all tries; null where the mail is taken. */
  told(tries: number): string | null
}
const people = (count: number, domain: string, told: Person['told']): Person[] =>
  Array.from({ length: count }, (_, at) => ({ name: `p${at}.${domain}`, domain, told }))
const taken = () => null

/** Who is marked at the end. */
function markedAfter(order: readonly Person[]): string[] {
  let now = 0
  let tries = 0
  const refusals = new Refusals(() => now)
  const marked = new Set<string>()
  const mailOf = ({ name, domain }: Person) =>
    ({ id: `mail-${name}`, member: name as MemberId, compared: `${name}@${domain}`, space: '' }) as QueuedMail
  let waiting = [...order]
  for (let round = 0; round < 6 && waiting.length > 0; round++) {
    const again = new Set<Person>()
    for (const queue = [...waiting]; queue.length > 0;) {
      const person = queue.shift()!
      now += 2_000
      const said = person.told(tries++)
      if (said === null) {
        const judged = refusals.takes(mailOf(person))
        queue.unshift(...order.filter(({ name }) => judged.includes(`mail-${name}`)))
        for (const one of queue) again.delete(one)
        continue
      }
      const { consequence, overturned, again: requeued } = refusals.refused(mailOf(person), answer(said))
      for (const one of overturned) marked.delete(one)
      for (const one of order) if (requeued.includes(`mail-${one.name}`)) again.add(one)
      if (consequence === 'mark') marked.add(person.name)
      if (consequence === 'later') again.add(person)
    }
    waiting = [...again]
    now += HOUR_MS
  }
  return [...marked].toSorted()
}

const OURS = [
  '550 Your network is on our block list',
  '550 5.7.1 Your network is on our block list',
  '550 5.1.1 Your network is on our block list',
  '550 5.0.0 rejected',
  '550 no',
  '554 5.7.9 Message not accepted for policy reasons',
  '550 5.3.2 System not accepting network messages',
]
const others = [
  ...people(25, 'meadow.example', taken),
  ...people(20, 'harbour.example', taken),
  ...people(15, 'orchard.example', taken),
]
const shuffled = (all: readonly Person[]) => fc.shuffledSubarray([...all], { minLength: all.length })

test.each(OURS)(
  'property: a domain that takes none of us marks none of its people, whoever else is taken: %s',
  (said) =>
    fc.assert(
      fc.property(shuffled([...people(30, 'school.example', () => said), ...others]), (order) =>
        expect(markedAfter(order)).toEqual([]),
      ),
    ),
)

test.each([
  ...OURS,
  '452 4.2.2 over quota',
  '550 Mailbox over quota',
  '552 5.2.2 Quota exceeded',
  '554 Daily message quota exceeded',
])('property: a server that refuses every second mail, to whomever, marks nobody: %s', (said) => {
  const everySecond = (tries: number) => (tries % 2 === 0 ? said : null)
  const all = ['meadow', 'harbour', 'school'].flatMap((name) => people(20, `${name}.example`, everySecond))
  fc.assert(fc.property(shuffled(all), (order) => expect(markedAfter(order)).toEqual([])))
})

test.each(['550 5.1.1 No such user', '550 No such user here', '550 5.2.1 Mailbox disabled'])(
  'property: addresses that are no more are marked, each of them, among those who are taken: %s',
  (said) => {
    const dead = people(4, 'bigpost.example', () => said)
    const alone = people(1, 'oneperson.example', () => said)
    const order = shuffled([
      ...dead,
      ...alone,
      ...people(60, 'bigpost.example', taken).map((one) => ({ ...one, name: `t${one.name}` })),
      ...others,
    ])
    fc.assert(
      fc.property(order, (drawn) =>
        expect(markedAfter(drawn)).toEqual([...dead, ...alone].map(({ name }) => name).toSorted()),
      ),
    )
  },
)
