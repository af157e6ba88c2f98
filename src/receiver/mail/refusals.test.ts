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
