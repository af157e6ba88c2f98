import { content, spot } from '../../../tests/tables/samples'
import type { InstallReport } from '#core/install'
import { withSeen } from './check'
import { garbledWords } from './garbled'
import { obstacleMet, refusalOf } from './visit-findings'
import type { Obstacle, Visited } from './ports'

/** What these encodings make of the words, by the WHATWG Encoding standard's tables, is Node's own doing. */
const latin1 = (text: string) => Buffer.from(text, 'latin1')
const heading = 'Frühe Nächte'
const form = { words: { ...content.words, heading }, fields: content.fields }

test.each([
  ['as it is', heading, null],
  ['UTF-8 read as windows-1252', new TextDecoder('windows-1252').decode(Buffer.from(heading)), 'FrÃ¼he'],
  ['ISO 8859-1 read as UTF-8', new TextDecoder().decode(latin1(heading)), 'Fr\uFFFDhe'],
  ['with another heading', 'Early nights', null],
])('words %s', (_, words, shown) => {
  const found = garbledWords(`<h2>${words}</h2>`, form, 'windows-1252')
  expect(found?.happened ?? null).toEqual(shown === null ? null : `They read “${shown}”.`)
})

const met = {
  spot,
  content,
  others: new Map([
    [spot.id as string, 'This spot'],
    ['otherspot', 'Another spot'],
  ]),
}

const visited = { isThere: false, status: 200, html: '' } as Visited
test.each<[string, Partial<Visited>, RegExp | null]>([
  ['answers 403 to it', { status: 403 }, /it answers it 403/],
  ['asks for proof', { html: '<h1>One moment</h1><p>Checking your browser …</p>' }, /“Checking your browser”/],
  ['asks for proof, in a script alone', { html: '<script>captcha()</script><p>Hello</p>' }, null],
  ['speaks of robots in a long text', { html: `<p>Are you human?</p><p>${'Stars. '.repeat(600)}</p>` }, null],
  ['lacks the form', { html: '<p>Hello</p>' }, null],
  ['shows the form', { isThere: true, status: 503 }, null],
])('a page that %s', (_, seen, refusal) => {
  const said = refusalOf({ ...visited, ...seen })
  if (refusal === null) expect(said).toBeNull()
  else expect(said).toMatch(refusal)
})

/** A page whose script makes the form: the source says so much, a browser the rest. */
test.each<[string, Partial<Visited>, InstallReport['state']]>([
  ['can be used', { isThere: true, obstacle: null }, 'whole'],
  ['is covered', { isThere: true, obstacle: { code: 'covered', detail: 'a film', markup: '' } }, 'damaged'],
  ['is not there', { isThere: false }, 'damaged'],
])('code that is material of a script, and a form that %s', (_, seen, state) => {
  const finding = { code: 'by-script', weight: 'hint', message: 'Material.', mend: 'Rehearse.', lines: null } as const
  const report: InstallReport = { state: 'unclear', version: null, edits: [], findings: [finding] }
  const page = { ...visited, complaints: [], remarks: [], ...seen }
  expect(withSeen(report, [page, page], met).state).toBe(state)
})

/** What a page asked the receiver for is known, so nobody blames its scripts. */
test.each<[string, { spot: string; status: number }, string, string | undefined]>([
  ['with a letter missing', { spot: spot.id.slice(1), status: 404 }, 'unknown-spot', spot.id],
  ['of nobody', { spot: 'zzzzzzzzzzzz', status: 404 }, 'unknown-spot', undefined],
  ['of another spot', { spot: 'otherspot', status: 200 }, 'other-spot', 'otherspot'],
])('a page that asked for a form %s', (_, asked, code, meant) => {
  const found = obstacleMet({ ...visited, complaints: [], asked: [asked] }, met)
  expect(found?.failure).toMatchObject({ code, at: 'page' })
  expect(found?.failure.spot).toBe(meant)
  expect(found?.failure.cause).not.toMatch(/script/)
  const absent = { code: 'absent', weight: 'damage', message: 'Not there.', mend: 'Paste it.', lines: null } as const
  const report: InstallReport = { state: 'absent', version: null, edits: [], findings: [absent] }
  const both = withSeen(report, [{ ...visited, complaints: [], asked: [asked] }], met)
  expect(both.findings.map((one) => one.code)).toEqual([code])
})

/** A page of ours has nothing of a site's on it: whatever is met there lies with the form, or before the receiver. */
test.each([
  ...['hidden', 'faint', 'covered', 'trap-visible', 'page-left', 'field-missing', 'field-locked', 'no-button'],
  ...['button-disabled', 'submit-stopped', 'foreign-required', 'sent-elsewhere', 'send-blocked', 'answer-unseen'],
  ...['answer-missing', 'trouble'],
] as Obstacle['code'][])('%s on our own page is never blamed on a site', (code) => {
  const seen = { ...visited, isThere: true, complaints: [], obstacle: { code, detail: 'x', markup: '' } }
  const { failure } = obstacleMet(seen, { ...met, spot: { ...spot, kind: 'landing' } })!
  expect(`${failure.cause} ${failure.mend}`).not.toMatch(/\bsites?\b|paste|\bframe\b/i)
  expect(['form', 'settings']).toContain(failure.at)
})

test('unreadable text is blamed on the form’s Look where the Look is it, with the checkup’s mend', () => {
  const look = { ...content.look, ground: { kind: 'colour' as const }, colours: { ...content.look.colours } }
  look.colours.text = look.colours.background
  const seen = {
    ...visited,
    isThere: true,
    complaints: [],
    obstacle: { code: 'faint' as const, detail: 'x', markup: '' },
  }
  const { station, failure } = obstacleMet(seen, { ...met, content: { ...content, look } })!
  expect([station, failure.at]).toEqual(['form', 'form'])
  expect(failure.cause).toMatch(/Look.*too like what is behind/)
  expect(obstacleMet(seen, met)!.failure.at).toBe('page')
})
