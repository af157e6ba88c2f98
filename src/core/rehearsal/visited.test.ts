import { content } from '../../../tests/tables/samples'
import type { InstallReport } from '#core/install'
import { withSeen } from './check'
import { garbledWords } from './garbled'
import { refusalOf } from './visit-findings'
import type { Visited } from './ports'

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
  expect(withSeen(report, [page, page]).state).toBe(state)
})
