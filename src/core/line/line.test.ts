import type { Version } from '#core/form'
import type { Arrival } from '#core/journal'
import { content, form, list, site, spot, version } from '../../../tests/tables/samples'
import type { SiteId, SpotId } from '#core/ids'
import { lineOf, linesOf, type LineSubject } from '.'

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
    expect(line[3]!.reason).toBe('No mail is sent: whoever signs up is on the list at once.')
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
