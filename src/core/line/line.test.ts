import type { Version } from '#core/form'
import type { Arrival } from '#core/journal'
import { content, form, list, site, spot, version } from '../../../tests/tables/samples'
import type { SiteId, SpotId } from '#core/ids'
import type { Delivery } from '#core/mail'
import { startMail } from '#core/message'
import type { Proof, Step } from '#core/proof'
import { startRule } from '#core/rule'
import { lineOf, linesOf, type LineSubject, onwardStates } from '.'

const subject: LineSubject = {
  form,
  list,
  spots: [spot],
  sites: [site],
  receiver: 'http://localhost:4310',
  versions: [],
  pictures: [],
  videoHosts: null,
  arrivals: [],
  proofs: [],
  delivery: { state: 'stand-in', said: '' },
}
const arrival = { version: 1, verdict: 'joined', at: '2026-02-01T00:00:00.000Z', spot: spot.id } as Arrival
const known = { ...arrival, verdict: 'already-on-list' } as Arrival
const reworded = { ...content, words: { ...content.words, heading: 'Other words' } }
const ownPage = {
  ...content,
  answers: {
    ...content.answers,
    joined: { ...content.answers.joined, show: 'address' as const, address: 'https://blog.example/thanks' },
  },
}
const second: Version = { ...version, number: 2, content: reworded }

test.each([
  { why: 'a fresh draft', given: {}, signals: 'empty ready ready empty ready' },
  { why: 'published, nobody came', given: { versions: [version] }, signals: 'ready ready ready empty ready' },
  {
    why: 'somebody joined',
    given: { versions: [version], arrivals: [arrival] },
    signals: 'proven proven ready empty proven',
  },
  {
    why: 'a rule that is not published',
    given: { versions: [version], spots: [{ ...spot, code: 'rule' as const }], arrivals: [arrival] },
    signals: 'needs-work proven ready empty proven',
  },
  {
    why: 'a published rule',
    given: {
      versions: [version],
      spots: [{ ...spot, code: 'rule' as const, placing: { draft: startRule, published: startRule } }],
      arrivals: [arrival],
    },
    signals: 'proven proven ready empty proven',
  },
  {
    why: 'somebody joined and came again',
    given: { versions: [version], arrivals: [arrival, known] },
    signals: 'proven proven proven empty proven',
  },
  {
    why: 'somebody came who was on the list',
    given: { versions: [version], arrivals: [known] },
    signals: 'proven proven ready empty ready',
  },
  {
    why: 'a page of one’s own, sent to but not looked at',
    given: {
      versions: [{ ...version, content: ownPage }],
      arrivals: [arrival, known],
      form: { ...form, draft: ownPage },
    },
    signals: 'proven proven ready empty proven',
  },
  {
    why: 'the answer to who is on the list rewritten',
    given: {
      versions: [version],
      arrivals: [arrival, known],
      form: {
        ...form,
        draft: {
          ...content,
          answers: { ...content.answers, 'already-on-list': { ...content.answers.joined, heading: 'Again' } },
        },
      },
    },
    signals: 'proven proven changed empty proven',
  },
  {
    why: 'other wordings are tried, and somebody joined by one of them',
    given: {
      versions: [version, { ...second, isTried: true }],
      arrivals: [
        { ...arrival, version: 2 },
        { ...known, version: 2 },
      ],
    },
    signals: 'proven proven proven empty proven',
  },
  {
    why: 'the same, and the draft reworded',
    given: {
      versions: [version, { ...second, isTried: true }],
      arrivals: [{ ...arrival, version: 2 }],
      form: { ...form, draft: reworded },
    },
    signals: 'proven changed ready empty proven',
  },
  {
    why: 'reworded since somebody joined',
    given: { versions: [version], arrivals: [arrival, known], form: { ...form, draft: reworded } },
    signals: 'proven changed proven empty proven',
  },
  {
    why: 'a second version, old code on the page',
    given: { versions: [version, second], arrivals: [arrival, known], form: { ...form, draft: reworded } },
    signals: 'changed changed proven empty proven',
  },
  {
    why: 'no live spot',
    given: { spots: [{ ...spot, state: 'retired' }] },
    signals: 'needs-work ready ready empty ready',
  },
  { why: 'the list is gone', given: { list: null }, signals: 'empty ready ready empty needs-work' },
  {
    why: 'a real site, but a receiver that only this computer reaches',
    given: { sites: [{ ...site, address: 'https://blog.example/' }] },
    signals: 'needs-work ready ready empty ready',
  },
  {
    why: 'a button that says nothing',
    given: { form: { ...form, draft: { ...content, words: { ...content.words, button: ' ' } } } },
    signals: 'empty needs-work ready empty ready',
  },
  {
    why: 'an after-page that is not there yet',
    given: {
      form: {
        ...form,
        draft: {
          ...content,
          answers: {
            ...content.answers,
            joined: { ...content.answers.joined, show: 'address', address: 'http://shop.example' },
          },
        },
      },
    },
    signals: 'empty ready needs-work empty ready',
  },
] as { why: string; given: Partial<LineSubject>; signals: string }[])('$why: $signals', ({ given, signals }) => {
  const line = lineOf({ ...subject, ...given })
  expect(line.map(({ signal }) => signal).join(' ')).toBe(signals)
  for (const { reason } of line) expect(reason).toMatch(/^[A-Z“].*\.$/)
})

describe('a form with several spots', () => {
  const footer = { ...spot, id: 'footerspot' as SpotId, kind: 'footer' as const }
  const proven = { ...subject, versions: [version], arrivals: [arrival, known] }
  const signalsOf = (line: ReturnType<typeof lineOf>) => line.map(({ signal }) => signal).join(' ')

  test('a spot that nobody came through is not proven by another; the form’s line shows the worst and says which', () => {
    const given = { ...proven, spots: [spot, footer] }
    expect(linesOf(given).map(({ spot: { id }, line }) => [id, signalsOf(line)])).toEqual([
      [spot.id, 'proven proven proven empty proven'],
      [footer.id, 'ready ready ready empty ready'],
    ])
    const line = lineOf(given)
    expect(signalsOf(line)).toBe('ready ready ready empty ready')
    expect(line[0]).toMatchObject({
      spot: footer.id,
      reason: 'Sample site, footer: The code is ready. No sign-up has come through it yet.',
    })
    // What is true of all of them names none.
    expect(line[3]!.reason).toBe(
      'No mail is sent yet: what stands below waits for a sender, and to be published. Whoever signs up is on the list at once.',
    )
  })

  test('what is wrong with one spot is the form’s, and not the other’s', () => {
    const line = linesOf({ ...proven, spots: [spot, { ...footer, site: 'nowhere' as SiteId }] })
    expect(line.map(({ line: [first] }) => first!.signal)).toEqual(['proven', 'needs-work'])
    expect(lineOf({ ...proven, spots: [spot, { ...footer, site: 'nowhere' as SiteId }] })[0]!.signal).toBe('needs-work')
  })

  test('a retired spot has no line, and holds none back', () => {
    expect(signalsOf(lineOf({ ...proven, spots: [spot, { ...footer, state: 'retired' }] }))).toBe(
      'proven proven proven empty proven',
    )
  })
})

describe('a rehearsal', () => {
  const step = (station: Step['station'], verdict: Step['verdict'] = 'passed'): Step => ({
    case: 'first',
    station,
    what: 'Somebody new',
    verdict,
    seen: 'Seen.',
    ms: 1,
  })
  const proof: Proof = {
    id: 'someproof' as Proof['id'],
    spot: spot.id,
    form: form.id,
    version: 1,
    code: 'plain',
    at: '2026-03-01T12:00:00.000Z',
    ms: 1,
    by: 'workshop',
    verdict: 'passed',
    cases: ['first'],
    steps: [step('spot'), step('form'), step('answer'), step('list')],
    about: { spot, site, list },
  }
  const published = { ...subject, versions: [version], proofs: [proof] }
  const signalsOf = (given: Partial<LineSubject>) =>
    lineOf({ ...published, ...given })
      .map(({ signal }) => signal)
      .join(' ')
  const confirming = {
    ...startMail(list.id, list.name).draft,
    confirm: 'always' as const,
    senderName: 'Ada at the hill',
    senderAddress: 'letters@hill.example',
    bounceAddress: 'bounces@hill.example',
  }
  const withDraft = (draft: typeof content) => ({ form: { ...form, draft } })
  const second = { ...version, number: 2, content: reworded }

  test.each([
    ['nothing changed', {}, 'proven proven proven empty proven'],
    ['the spot', { spots: [{ ...spot, page: 'http://127.0.0.1:4320/other' }] }, 'changed proven proven empty proven'],
    ['the site', { sites: [{ ...site, address: 'http://127.0.0.1:4320/new' }] }, 'changed proven proven empty proven'],
    ['only its name', { sites: [{ ...site, name: 'Another name' }] }, 'proven proven proven empty proven'],
    ['the form', withDraft(reworded), 'proven changed proven empty proven'],
    [
      'an answer',
      withDraft({
        ...content,
        answers: { ...content.answers, joined: { ...content.answers.joined, heading: 'Welcome' } },
      }),
      'proven proven changed empty proven',
    ],
    [
      'the look, which both wear',
      withDraft({
        ...content,
        look: { ...content.look, type: { ...content.look.type, font: 'bookish' } },
      } as typeof content),
      'proven changed changed empty proven',
    ],
    [
      'a column of the list that the form does not fill',
      { list: { ...list, columns: [...list.columns, { key: 'town', label: 'Town' }] } },
      'proven proven proven empty proven',
    ],
    [
      'a version was published',
      { ...withDraft(reworded), versions: [version, second] },
      'changed changed proven empty proven',
    ],
    // Real people prove what they went through, and nothing else.
    [
      'a version was published, and somebody signed up through it',
      { ...withDraft(reworded), versions: [version, second], arrivals: [{ ...arrival, version: 2 }] },
      'proven proven proven empty proven',
    ],
    ['another spot’s', { proofs: [{ ...proof, spot: 'otherspot' as SpotId }] }, 'ready ready ready empty ready'],
    [
      'one that failed, as it still is',
      { proofs: [{ ...proof, verdict: 'failed', steps: [step('spot'), step('form'), step('answer', 'failed')] }] },
      'proven proven needs-work empty ready',
    ],
    [
      'one that failed, and the newer one that passed',
      {
        proofs: [
          { ...proof, verdict: 'failed', steps: [step('spot', 'failed')], at: '2026-02-28T12:00:00.000Z' },
          proof,
        ],
      },
      'proven proven proven empty proven',
    ],
    [
      'one without a browser after one that tried all',
      {
        proofs: [
          proof,
          {
            ...proof,
            at: '2026-03-02T12:00:00.000Z',
            by: 'receiver',
            steps: [step('spot'), step('form', 'not-tried')],
          },
        ],
      },
      'proven proven proven empty proven',
    ],
    [
      'what was not tried',
      { proofs: [{ ...proof, steps: [step('spot'), step('form', 'not-tried')] }] },
      'proven ready ready empty ready',
    ],
    [
      'what passed beside the way of visitors, which was not tried',
      {
        proofs: [
          {
            ...proof,
            steps: [
              step('spot'),
              step('form', 'not-tried'),
              { ...step('answer'), case: 'closed' },
              { ...step('list'), case: 'elsewhere' },
            ],
          },
        ],
      },
      'proven ready ready empty ready',
    ],
    [
      'confirmation switched on',
      {
        proofs: [{ ...proof, about: { ...proof.about, mail: null } }],
        mail: { list: list.id, draft: confirming, published: confirming } as LineSubject['mail'],
      },
      'proven proven changed ready proven',
    ],
    [
      'the receiver reached elsewhere',
      {
        receiver: 'https://new.example',
        proofs: [{ ...proof, about: { ...proof.about, receiver: 'https://old.example' } }],
      },
      'changed proven proven empty proven',
    ],
    [
      'one that was stopped',
      { proofs: [{ ...proof, verdict: 'stopped', steps: [step('spot')] }] },
      'ready ready ready empty ready',
    ],
  ] as [string, Partial<LineSubject>, string][])('%s: exactly the stations concerned say so', (_, given, signals) => {
    expect(signalsOf(given)).toBe(signals)
  })

  test('a column that the form fills was taken away: the list says so', () => {
    const filled = content.fields.flatMap(({ column }) => (column === null || column === 'email' ? [] : [column]))
    const whole = { ...list, columns: filled.map((key) => ({ key, label: key })) }
    const given = { proofs: [{ ...proof, about: { ...proof.about, list: whole } }] }
    expect(filled.length).toBeGreaterThan(0)
    expect(lineOf({ ...published, ...given, list: whole }).at(-1)!.signal).toBe('proven')
    expect(lineOf({ ...published, ...given, list: { ...whole, columns: [] } }).at(-1)!.signal).not.toBe('proven')
  })

  describe('mail is proven by an inbox, and by nothing before it', () => {
    const mail = {
      ...startMail(list.id, list.name).draft,
      confirm: 'always' as const,
      senderAddress: 'letters@hill.example',
    }
    const sending = {
      ...published,
      mail: { list: list.id, draft: mail, published: mail },
      proofs: [{ ...proof, steps: [...proof.steps, step('mail')], about: { ...proof.about, mail } }],
    }
    test.each([
      ['stand-in', 'proven'],
      ['arrived', 'proven'],
      ['untried', 'ready'],
      ['no-server', 'needs-work'],
      ['refused', 'needs-work'],
      [null, 'ready'],
    ] as [Delivery['state'] | null, string][])('%s: %s', (state, signal) => {
      const delivery = state === null ? null : { state, said: '550 5.7.1 Blocked' }
      const line = lineOf({ ...sending, delivery })
      expect([line[3]!.signal, state !== 'refused' || line[3]!.reason.includes('5.7.1')]).toEqual([signal, true])
      // Whatever was rehearsed.
      if (signal === 'needs-work') expect(lineOf({ ...sending, proofs: [], delivery })[3]!.signal).toBe(signal)
    })
  })
})

describe('where a list goes on to', () => {
  const at = '2026-03-01T12:00:00.000Z'
  const seen = (verdict: Step['verdict']): Proof =>
    ({
      at,
      steps: [{ case: 'first', station: 'list', what: 'On to Letters', verdict, seen: 'Seen there.', ms: 1 }],
    }) as unknown as Proof
  const onward = (refused?: { at: string; count: number }) => [
    { name: 'Letters', isPaused: false, trouble: null, ...(refused !== undefined && { refused }) },
  ]
  test.each([
    ['nobody was refused', undefined, [seen('passed')], 'proven', 'Seen there.'],
    [
      'a real person was refused since',
      { at: '2026-03-02T00:00:00.000Z', count: 1 },
      [seen('passed')],
      'needs-work',
      'Proven, and 1 person was refused there since: look why.',
    ],
    [
      'people were refused before',
      { at: '2026-02-01T00:00:00.000Z', count: 3 },
      [seen('passed')],
      'proven',
      'Seen there.',
    ],
    [
      'people were refused, and nobody rehearsed',
      { at, count: 2 },
      [],
      'needs-work',
      '2 people were refused there: look why.',
    ],
  ] as const)('%s', (_, refused, proofs, signal, reason) => {
    expect(onwardStates(onward(refused), proofs)).toEqual([{ name: 'Letters', signal, reason }])
    if (signal !== 'needs-work') return
    const list = lineOf({ ...subject, onward: onward(refused), proofs: [] }).at(-1)!
    expect([list.signal, list.reason.startsWith('On to Letters: ')]).toEqual(['needs-work', true])
  })
})
