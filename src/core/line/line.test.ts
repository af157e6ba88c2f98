import type { Version } from '#core/form'
import type { Arrival } from '#core/journal'
import { content, form, list, site, spot, version } from '../../../tests/tables/samples'
import { lineOf, type LineSubject } from '.'

const subject: LineSubject = { form, list, spots: [spot], sites: [site], receiver: 'http://localhost:4310', versions: [], pictures: [], videoHosts: null, arrivals: [] }
const arrival = { version: 1, verdict: 'joined', at: '2026-02-01T00:00:00.000Z', spot: spot.id } as Arrival
const reworded = { ...content, words: { ...content.words, heading: 'Other words' } }
const second: Version = { ...version, number: 2, content: reworded }

test.each([
  { why: 'a fresh draft', given: {}, signals: 'empty ready ready empty ready' },
  { why: 'published, nobody came', given: { versions: [version] }, signals: 'ready ready ready empty ready' },
  { why: 'somebody joined', given: { versions: [version], arrivals: [arrival] }, signals: 'proven proven proven empty proven' },
  {
    why: 'reworded since somebody joined',
    given: { versions: [version], arrivals: [arrival], form: { ...form, draft: reworded } },
    signals: 'proven changed proven empty proven',
  },
  {
    why: 'a second version, old code on the page',
    given: { versions: [version, second], arrivals: [arrival], form: { ...form, draft: reworded } },
    signals: 'changed changed proven empty proven',
  },
  { why: 'no live spot', given: { spots: [{ ...spot, state: 'retired' }] }, signals: 'needs-work ready ready empty ready' },
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
    given: { form: { ...form, draft: { ...content, answers: { ...content.answers, joined: { ...content.answers.joined, show: 'address', address: 'http://shop.example' } } } } },
    signals: 'empty ready needs-work empty ready',
  },
] as { why: string; given: Partial<LineSubject>; signals: string }[])('$why: $signals', ({ given, signals }) => {
  const line = lineOf({ ...subject, ...given })
  expect(line.map(({ signal }) => signal).join(' ')).toBe(signals)
  for (const { reason } of line) expect(reason).toMatch(/^[A-Z“].*\.$/)
})
