import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import fc from 'fast-check'
import { peopleWriter, factColumns, peopleFormats } from '#core/export'
import type { ListId, MemberId } from '#core/ids'
import { type Column, type Member, memberStatuses } from '#core/list'
import { refusedCharacter } from '#core/text'
import {
  encodingOf,
  type FileRow,
  type FileShape,
  formatOf,
  headIn,
  type ImportPlan,
  type JudgedRow,
  matchColumns,
  momentIn,
  readerOf,
  needsStrictness,
  rowJudge,
  strictnessJudge,
  SeenAddresses,
  separatorOf,
  Survey,
  type Target,
  undecidedIn,
} from '.'

const columns: Column[] = [
  { key: 'first-name', label: 'First name' },
  { key: 'town', label: 'Town' },
  { key: 'telescope', label: 'Telescope', kind: 'yes-no' },
]

/** Reads a text in pieces of a length. */
function readAll(text: string, shape: Partial<FileShape> = {}, piece = 7) {
  const reader = readerOf({ format: 'csv', separator: ',', head: { skip: 0, hasHead: true }, ...shape })
  const rows: FileRow[] = []
  for (let at = 0; at < text.length; at += piece) rows.push(...reader.push(text.slice(at, at + piece)))
  rows.push(...reader.end())
  return { rows, columns: reader.columns, problem: reader.problem }
}

/** What columns are for, and what there is to decide: the keys of each column's undecided words. */
function matched(names: readonly string[], rows: readonly FileRow[], format: FileShape['format'] = 'csv') {
  const survey = new Survey()
  for (const row of rows) survey.take(row)
  const tallies = survey.tallies(names.length)
  const targets = matchColumns({ fileColumns: names, sample: rows.slice(0, 100), tallies, columns, format })
  return { tallies, targets, undecided: targets.map((target, at) => undecidedIn(target, tallies[at], columns)) }
}

function imported(
  text: string,
  name = 'csv' as FileShape['format'],
  people: Member[] = [],
  more: Partial<ImportPlan> = {},
) {
  const separator = separatorOf(text)
  const shape = { format: name, separator, head: headIn(text, separator) }
  const { rows, columns: found } = readAll(text, shape, 4_000)
  const { targets } = matched(found, rows, name)
  const plan: ImportPlan = { targets, known: 'fill', tags: [], status: 'confirmed', ...more }
  const seen = new SeenAddresses()
  const strictness = strictnessJudge(plan)
  const isSeenBefore = needsStrictness(plan)
  for (const row of isSeenBefore ? rows : []) {
    const judged = strictness(row)
    if (judged !== null) seen.see(judged.compared, row.line, judged.rank)
  }
  const judge = rowJudge(plan, {
    columns,
    withAddress: (compared) => people.find(({ email }) => email.compared === compared) ?? null,
    isErased: (compared) => compared === 'erased@m.example',
    countedLine: (compared, line) => (isSeenBefore ? (seen.lineOf(compared) ?? line) : seen.see(compared, line)),
  })
  return rows.map(judge)
}

describe('a table is read as others read it', () => {
  // The files of the package csv-spectrum, with what each says as JSON.
  const folder = dirname(require.resolve('csv-spectrum/package.json'))
  // One is left out: its JSON tells another telephone number than its table.
  const files = readdirSync(join(folder, 'csvs')).filter((file) => file !== 'location_coordinates.csv')
  test.each(files)('%s', (file) => {
    const text = readFileSync(join(folder, 'csvs', file), 'utf8')
    const expected = JSON.parse(readFileSync(join(folder, 'json', file.replace('.csv', '.json')), 'utf8')) as object[]
    for (const piece of [1, 5, 10_000]) {
      const { rows, columns: names } = readAll(text, {}, piece)
      const records = rows.map(({ cells }) => Object.fromEntries(names.map((name, at) => [name, cells[at] ?? ''])))
      expect(records).toEqual(expected)
    }
  })

  // RFC 4180, section 2, rule by rule.
  test.each([
    ['1: rows end in CR LF', 'a,b\r\n1,2\r\n', [['1', '2']]],
    ['2: the last may end in nothing', 'a,b\r\n1,2', [['1', '2']]],
    ['4: spaces belong to a field', 'a,b\r\n 1 ,2', [[' 1 ', '2']]],
    ['5: fields may stand in quotes', 'a,b\r\n"1",2', [['1', '2']]],
    ['6: with line breaks, quotes and commas in them', 'a,b\r\n"1\r\n,x",2', [['1\r\n,x', '2']]],
    ['7: a quote in quotes is doubled', 'a,b\r\n"1""x",2', [['1"x', '2']]],
    [
      'beyond it: LF alone',
      'a,b\n1,2\n3,4',
      [
        ['1', '2'],
        ['3', '4'],
      ],
    ],
    [
      'CR alone',
      'a,b\r1,2\r3,4',
      [
        ['1', '2'],
        ['3', '4'],
      ],
    ],
    [
      'one way and the other',
      'a,b\r\n1,2\n"3",4\r\n',
      [
        ['1', '2'],
        ['3', '4'],
      ],
    ],
    ['empty rows', 'a,b\n\n1,2\n,\n', [['1', '2']]],
    ['a mark of UTF-8 at the beginning', '\ufeffa,b\n1,2', [['1', '2']]],
  ])('RFC 4180, %s', (_, text, expected) => {
    for (const piece of [1, 3, 1_000]) expect(readAll(text, {}, piece).rows.map(({ cells }) => cells)).toEqual(expected)
  })

  test('rows know on which line they begin', () => {
    expect(readAll('a,b\r\n"1\r\n2",x\r\n\r\n3,4\r\n').rows.map(({ line }) => line)).toEqual([2, 5])
  })

  test.each([
    ['a quotation mark that is never closed', `a,b\n1,"${'x\n'.repeat(5_000_000)}`, 'no-end-of-row'],
    ['10,000 columns', `${Array.from({ length: 10_000 }, (_, at) => at).join(',')}\n`, 'too-many-columns'],
  ])('%s is told, and ends it', (_, text, code) => {
    const { rows, problem } = readAll(text, {}, 1 << 20)
    expect(problem?.code).toBe(code)
    expect(rows).toEqual([])
  })
})

test.each([
  ['UTF-8', new TextEncoder().encode('Zoë, ada@m.example'), 'utf-8'],
  ['UTF-8 with its mark', new Uint8Array([0xef, 0xbb, 0xbf, 0x61]), 'utf-8'],
  ['UTF-16 with its mark', new Uint8Array([0xff, 0xfe, 0x61, 0]), 'utf-16le'],
  ['UTF-16, the other way round', new Uint8Array([0xfe, 0xff, 0, 0x61]), 'utf-16be'],
  ['UTF-16 without a mark', new Uint8Array(Buffer.from('Ada, ada@m.example', 'utf16le')), 'utf-16le'],
  ['Windows-1252', new Uint8Array(Buffer.from('Zo\xeb, zoe@m.example', 'latin1')), 'windows-1252'],
  ['a picture', new Uint8Array(readFileSync('docs/screenshots/person.png')).slice(0, 4096), null],
])('encoding: %s', (_, bytes, expected) => {
  expect(encodingOf(bytes)).toBe(expected)
  // The Encoding Standard's own decoder takes it.
  if (expected !== null) expect(new TextDecoder(expected, { fatal: true }).decode(bytes)).toContain('a')
})

test.each([
  ['a,b\n1,ada@m.example', 'csv', ','],
  ['Name;Mail\nAda;ada@m.example\n"a;b";c@m.example', 'csv', ';'],
  ['Name\tMail\nAda\tada@m.example', 'csv', '\t'],
  ['ada@m.example\nbea@m.example', 'lines', ','],
  ['"Lovelace, Ada" <ada@m.example>, bea@m.example', 'lines', ','],
  ['Ada <ada@m.example>\nbea@m.example\nnobody', 'lines', ','],
  ['Email\nada@m.example\nbea@m.example', 'csv', ','],
  ['ada@m.example,Ada\nbea@m.example,Bea', 'csv', ','],
  ['{"email":"ada@m.example"}\n', 'json-lines', ','],
  ['BEGIN:VCARD\nVERSION:4.0', 'vcard', ','],
])('what a file is: %j', (text, format, separator) => {
  expect(formatOf(text)).toBe(format)
  if (format === 'csv') expect(separatorOf(text)).toBe(separator)
})

test('columns are found by name and by content', () => {
  const messy = [
    'Mail?;Contact;Vorname;TOWN;Subscribed at;Status;Groups;Notes;Telescope',
    'no;ada@m.example;Ada;Ely;13/02/2025 08:30;active;"school, night";x;ja',
    'no;bea@m.example;Bea;Rye;01/12/2024;unsubscribed;;y;いいえ',
  ].join('\n')
  const { rows, columns: names } = readAll(messy, { separator: ';' })
  const { targets, undecided } = matched(names, rows)
  expect(targets).toEqual([
    { to: 'nothing' },
    { to: 'email' },
    { to: 'column', key: 'first-name' },
    { to: 'column', key: 'town' },
    { to: 'joined', read: { 'n/n/year': 'day-month-year' } },
    { to: 'status', means: { active: 'confirmed', unsubscribed: 'left' } },
    { to: 'tags', separator: ',', leftOut: [] },
    { to: 'nothing' },
    { to: 'column', key: 'telescope', means: { ja: 'yes', いいえ: 'no' } },
  ])
  expect(undecided.flat()).toEqual([])
})

describe('nobody comes in by a word that was not understood', () => {
  // Made-up tables, with what each word is taken to mean by itself; null where the owner is asked.
  test.each<[string, string, Record<string, string | null>]>([
    [
      'Status',
      'on,on,off,complained,never joined',
      { on: 'confirmed', off: null, complained: 'complained', 'never joined': null },
    ],
    [
      'Anmeldestatus',
      'aktiv,abgemeldet,unzustellbar',
      { aktiv: 'confirmed', abgemeldet: 'left', unzustellbar: 'bounced' },
    ],
    ['État', 'Abonné,Désabonnée,en attente', { abonné: 'confirmed', désabonnée: 'left', 'en attente': 'waiting' }],
    ['ステータス', '登録済み,退会,不達', { 登録済み: 'confirmed', 退会: 'left', 不達: 'bounced' }],
    ['الحالة', 'نشط,ألغى الاشتراك', { نشط: 'confirmed', 'ألغى الاشتراك': 'left' }],
    ['Opt_Out', 'TRUE,false,perhaps', { true: 'left', false: 'nothing', perhaps: null }],
    ['Unsubscribed at', '2024-05-03,2023-01-09', { '\tdate': 'left' }],
    ['Left on', '0000-00-00 00:00:00,2023-01-09,-,0000-00-00', { '\tdate': 'left' }],
    ['Opt-in', 'yes,no,unsubscribed', { yes: 'nothing', no: 'not-taken', unsubscribed: 'left' }],
    ['Newsletter', 'yes,no', { yes: 'nothing', no: 'not-taken' }],
    ['Einwilligung', 'ja,nein', { ja: 'nothing', nein: 'not-taken' }],
    ['spam complaint', '1,0', { 1: 'complained', 0: 'nothing' }],
    // Its heading says nothing; most of what stands in it does.
    ['Q7', 'subscribed,subscribed,unsubscribed,other', { subscribed: 'confirmed', unsubscribed: 'left', other: null }],
    ['X', '__proto__,active,active,constructor', { active: 'confirmed', constructor: null, proto: null }],
  ])('%s: %s', (heading, cells, expected) => {
    const text = [`Email,${heading}`, ...cells.split(',').map((cell, at) => `p${at}@m.example,${cell}`)].join('\n')
    const { rows, columns: names } = readAll(text)
    const { targets, undecided } = matched(names, rows)
    const target = targets[1] as Target & { to: 'status' }
    expect(target.to).toBe('status')
    const decided = Object.fromEntries(Object.entries(expected).filter(([, meaning]) => meaning !== null))
    expect(target.means).toEqual(decided)
    expect(undecided[1]!.map(({ key }) => key).toSorted()).toEqual(
      Object.keys(expected)
        .filter((word) => expected[word] === null)
        .toSorted(),
    )
    // Whoever's word is undecided is refused, whatever a screen lets through.
    const judged = imported(text)
    for (const [at, row] of rows.entries())
      if (expected[row.cells[1]!.toLowerCase()] === null) expect(judged[at]!.verdict).toBe('invalid')
  })

  test('of several columns, the one that keeps somebody furthest from mail counts; who is here and left there is taken off', () => {
    const text = [
      'Email,Status,Unsubscribed,Consent,Complained',
      'one@m.example,active,no,yes,',
      'two@m.example,active,yes,yes,',
      'three@m.example,active,no,no,',
      'four@m.example,,no,yes,1',
      'five@m.example,,,,',
      'ada@m.example,unsubscribed,,,',
      // Whoever stands twice: the stricter row counts, wherever it stands.
      'six@m.example,active,,,',
      'Six@m.example,unsubscribed,,,',
      'six@m.example,active,,,',
    ].join('\n')
    const rows = imported(text, 'csv', [ada], { status: 'waiting' })
    expect(rows.map(({ verdict, person }) => [verdict, person?.status, person?.tags])).toEqual([
      ['new', 'confirmed', []],
      ['new', 'left', []],
      ['not-taken', undefined, undefined],
      ['new', 'left', ['complained']],
      ['new', 'waiting', []],
      ['off', 'left', ['night']],
      ['twice', undefined, undefined],
      ['new', 'left', []],
      ['twice', undefined, undefined],
    ])
    expect(rows.slice(-3).map(({ words }) => words)).toEqual([
      'Also on line 9, whose status is stricter; that one counts.',
      '',
      'Also on line 9; that one counts.',
    ])
    expect(imported(text, 'csv', [ada], { known: 'keep' })[5]!.verdict).toBe('same')
  })

  test('dates are read by their spelling; those that can be read two ways are asked for', () => {
    const joined = (...cells: string[]) => {
      const text = ['Email,Joined', ...cells.map((cell, at) => `p${at}@m.example,"${cell}"`)].join('\n')
      const { rows, columns: names } = readAll(text)
      const { targets, undecided } = matched(names, rows)
      return { target: targets[1], undecided: undecided[1]!.map(({ key }) => key) }
    }
    expect(joined('5/6/21', '6/5/21')).toEqual({ target: { to: 'joined', read: {} }, undecided: ['n/n/n'] })
    expect(joined('5/6/21', '13/5/21').target).toEqual({ to: 'joined', read: { 'n/n/n': 'day-month-year' } })
    expect(joined('5/13/2021', '5/6/21')).toEqual({
      target: { to: 'joined', read: { 'n/n/year': 'month-day-year' } },
      undecided: ['n/n/n'],
    })
    expect(
      joined('1.2.2021', '0000-00-00', '2021-02-01', '44228', 'x-mas', '3 mars 2020', '2/2/2', '1612137600').undecided,
    ).toEqual(['x-mas', 'n/n/n'])
  })
})

test.each([
  ['2025-02-13', 'year-month-day', '2025-02-13T00:00:00.000Z'],
  ['2025-02-13 08:30:05', 'day-month-year', '2025-02-13T08:30:05.000Z'],
  ['2025-02-13T08:30:00+02:00', 'day-month-year', '2025-02-13T06:30:00.000Z'],
  ['2025-02-13T08:30:00.5Z', 'day-month-year', '2025-02-13T08:30:00.000Z'],
  ['13.02.2025', 'day-month-year', '2025-02-13T00:00:00.000Z'],
  ['02/13/2025 8:30', 'month-day-year', '2025-02-13T08:30:00.000Z'],
  ['5/6/21 1:05 PM', 'day-month-year', '2021-06-05T13:05:00.000Z'],
  ['5/6/21', 'month-day-year', '2021-05-06T00:00:00.000Z'],
  // POSIX `%y`.
  ['5/6/69', 'month-day-year', '1969-05-06T00:00:00.000Z'],
  ['Thu, 13 Feb 2025 08:30:05 GMT', 'day-month-year', '2025-02-13T08:30:05.000Z'],
  ['Feb 13th, 2025', 'day-month-year', '2025-02-13T00:00:00.000Z'],
  ['13. Februar 2025', 'day-month-year', '2025-02-13T00:00:00.000Z'],
  ['13 de febrero de 2025', 'day-month-year', '2025-02-13T00:00:00.000Z'],
  ['13 lutego 2025', 'day-month-year', '2025-02-13T00:00:00.000Z'],
  ['2025年2月13日', 'year-month-day', '2025-02-13T00:00:00.000Z'],
  // ECMA-376: day 45,701 of a spreadsheet.
  ['45701', 'spreadsheet-days', '2025-02-13T00:00:00.000Z'],
  ['1739435400', 'unix-seconds', '2025-02-13T08:30:00.000Z'],
  ['2025-02-30', 'day-month-year', null],
  ['31/02/2025', 'day-month-year', null],
  ['yesterday', 'day-month-year', null],
  ['13 foo 2025', 'day-month-year', null],
] as const)('a moment: %s, %s', (text, reading, expected) => expect(momentIn(text, reading)).toBe(expected))

test.each<[string, number, boolean]>([
  ['Members of the hill,,\n"As of June 1, 2026",,\nName,E-mail,Town\nAda,ada@m.example,Ely', 2, true],
  ['Members of the hill\n\nName;E-mail\nAda;ada@m.example', 1, true],
  ['Name,E-mail\nCem,\nAda,ada@m.example', 0, true],
  ['Ada,ada@m.example\nBea,bea@m.example', 0, false],
  ['Email\nada@m.example', 0, true],
])('where a table begins: %j', (text, skip, hasNames) => {
  expect(headIn(text, separatorOf(text))).toEqual({ skip, hasHead: hasNames })
  const rows = imported(text)
  expect(rows.at(-1)!.verdict).toBe('new')
})

test('objects within objects are taken apart, names in one cell too', () => {
  const text = '{"email":"ada@m.example","name":{"first":"Ada","last":"L"},"place":{"town":"Ely"}}\n'
  const { columns: names } = readAll(text, { format: 'json-lines' })
  expect(names).toEqual(['email', 'name.first', 'name.last', 'place.town'])
  expect(imported(text, 'json-lines')[0]!.person?.values).toEqual({ 'first-name': 'Ada', town: 'Ely' })
})

const ada: Member = {
  id: 'ada1' as MemberId,
  list: 'list' as ListId,
  email: { typed: 'Ada@m.example', compared: 'ada@m.example' },
  values: { 'first-name': 'Ada' },
  tags: ['night'],
  status: 'confirmed',
  joinedAt: '2026-01-01T00:00:00.000Z',
  from: null,
  revision: 3,
}

test('each row has its verdict, against the list as it is', () => {
  const left = {
    ...ada,
    id: 'bea1' as MemberId,
    email: { typed: 'b@m.example', compared: 'b@m.example' },
    status: 'left' as const,
  }
  const text = [
    'Email,First name,Town',
    'ADA@m.example,Augusta,Ely',
    'new@m.example,Cem,Rye',
    'b@m.example,Bea,',
    'erased@m.example,,',
    'NEW@m.example,Again,',
    'nobody,,',
    'slip@gmial.com,,',
    `long@m.example,${'x'.repeat(100_001)},`,
    'nul@m.example,a\0b,',
  ].join('\n')
  const brief = (rows: JudgedRow[]) => rows.map(({ line, verdict, person }) => [line, verdict, person?.values ?? null])
  const rest = [
    [3, 'new', { 'first-name': 'Cem', town: 'Rye' }],
    [4, 'gone', null],
    [5, 'erased', null],
    [6, 'twice', null],
    [7, 'invalid', null],
    [8, 'new', {}],
    [9, 'invalid', null],
    [10, 'invalid', null],
  ]
  const people = [ada, left]
  const filled = imported(text, 'csv', people)
  expect(brief(filled)).toEqual([[2, 'changed', { 'first-name': 'Ada', town: 'Ely' }], ...rest])
  expect(filled[6]).toMatchObject({ isMistyped: true, words: 'Did they mean slip@gmail.com?' })
  expect(filled[4]!.words).toContain('line 3')
  expect(brief(imported(text, 'csv', people, { known: 'replace' }))[0]).toEqual([
    2,
    'changed',
    { 'first-name': 'Augusta', town: 'Ely' },
  ])
  expect(brief(imported(text, 'csv', people, { known: 'keep' }))[0]).toEqual([2, 'same', null])
  expect(imported(text, 'csv', people, { known: 'keep', tags: ['fair'] })[0]!.person?.tags).toEqual(['night', 'fair'])
})

test('pasted lines: addresses alone, with names, several in a line', () => {
  const text = 'ada@m.example\n"Lovelace, Bea" <bea@m.example>; Cem <cem@m.example>\n\nnobody\nLeo Foss leo@x.example'
  expect(readAll(text, { format: 'lines' }).rows).toEqual([
    { line: 1, cells: ['ada@m.example', ''] },
    { line: 2, cells: ['bea@m.example', 'Lovelace, Bea'] },
    { line: 2, cells: ['cem@m.example', 'Cem'] },
    { line: 4, cells: ['nobody', ''] },
    { line: 5, cells: ['leo@x.example', 'Leo Foss'] },
  ])
})

// RFC 6350, section 8, the examples there, and its rules for folding and escaping in section 3.
const rfc6350 = `BEGIN:VCARD\r
VERSION:4.0\r
FN:Simon Perreault\r
N:Perreault;Simon;;;ing. jr,M.Sc.\r
BDAY:--0203\r
GENDER:M\r
LANG;PREF=1:fr\r
ORG;TYPE=work:Viagenie\r
TEL;VALUE=uri;TYPE="work,voice";PREF=1:tel:+1-418-656-9254;ext=102\r
EMAIL;TYPE=work:simon.perreault@viagenie.example\r
GEO;TYPE=work:geo:46.772673,-71.282945\r
END:VCARD\r
`
test('contacts: the example of RFC 6350, folded lines, several addresses, what is none', () => {
  const more = `BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Bea\\, of\r\n  the hill\r\nEMAIL;PREF=2:other@m.example\r\nEMAIL;PREF=1:bea@m.example\r\nCATEGORIES:night,a\\,b\r\nEND:VCARD\r\nBEGIN:VCARD\r\nnonsense\r\nEND:VCARD\r\n`
  const { rows } = readAll(rfc6350 + more, { format: 'vcard' })
  expect(rows[0]).toMatchObject({
    line: 1,
    cells: expect.arrayContaining([
      'simon.perreault@viagenie.example',
      'Simon',
      'Perreault',
      'Simon Perreault',
      'Viagenie',
    ]) as string[],
  })
  expect(rows[1]).toMatchObject({ line: 13, cells: ['bea@m.example', '', '', 'Bea, of the hill', 'night, "a,b"'] })
  expect(rows[2]).toMatchObject({ problem: expect.any(String) as string })
})

// The versit Consortium's vCard 2.1, sections 2.1.3 and 2.1.4.2: quoted-printable with soft line breaks, bare parameters.
test('contacts of version 2.1, and numbers written as addresses', () => {
  const old =
    'BEGIN:VCARD\r\nVERSION:2.1\r\nN;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:M=C3=BCller;Zo=C3=\r\n=AB\r\nFN:Zoë, of old\r\nTEL;CELL;VOICE:+49 30\r\nEMAIL;PREF;INTERNET:zoe@m.example\r\nEND:VCARD\r\n'
  const newer =
    'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Bea\\; of the hill\r\nTEL;VALUE=uri:tel:+1-418\r\nEMAIL:bea@m.example\r\nEND:VCARD\r\n'
  const { rows } = readAll(old + newer, { format: 'vcard' })
  expect(rows.map(({ cells }) => cells)).toEqual([
    ['zoe@m.example', 'Zoë', 'Müller', 'Zoë, of old', '', '+49 30'],
    ['bea@m.example', '', '', 'Bea; of the hill', '', '+1-418'],
  ])
})

const anyText = fc.oneof(
  fc.string({ unit: 'grapheme', maxLength: 12 }),
  fc.constantFrom('=1+1', '+44 20 7946 0018', "'=x", '-5', '@home', 'a,b', '"q"', 'one\r\ntwo', ';', '\\n', 'Zoë  '),
)
const anyMember = fc.record({
  first: anyText,
  town: anyText,
  tags: fc.uniqueArray(
    anyText.filter((tag) => tag.trim() === tag && tag !== ''),
    { maxLength: 3 },
  ),
  status: fc.constantFrom('confirmed' as const, 'waiting' as const),
  day: fc.integer({ min: 1, max: 28 }),
})

test.each(peopleFormats)('property: what is written as %s and read again is the same list', (format) => {
  fc.assert(
    fc.property(fc.array(anyMember, { minLength: 1, maxLength: 8 }), (all) => {
      // A file tells nothing of what is only white space, and nobody keeps NUL or half characters.
      const kept = (text: string) => text.trim() !== '' && refusedCharacter(text) === null
      // Line breaks in vCards are told by one sign: RFC 6350, section 3.4.
      const told = (text: string) => (format === 'vcard' ? text.replace(/\r\n|\r/g, '\n') : text)
      const members = all.map(({ first, town, tags, status, day }, at): Member => ({
        ...ada,
        id: `m${at}` as MemberId,
        email: { typed: `P${at}@m.example`, compared: `p${at}@m.example` },
        values: Object.fromEntries(
          Object.entries({ 'first-name': first, town })
            .filter(([, value]) => kept(value))
            .map(([key, value]) => [key, told(value)]),
        ),
        tags: [...new Set(tags.filter(kept).map(told))],
        status,
        joinedAt: `2026-03-${String(day).padStart(2, '0')}T00:00:00.000Z`,
      }))
      const writer = peopleWriter(format, [...columns, ...factColumns])
      const read = imported(writer.start + writer.piece(members), format)
      expect(read.map(({ person }) => person)).toEqual(
        members.map(({ email, values, tags, status, joinedAt }) => ({
          email: email.typed,
          values,
          tags,
          status,
          joinedAt,
        })),
      )
    }),
  )
})

test('property: of an address that stands twice the strictest line counts, the first of equals, whatever else there is', () => {
  const row = fc.tuple(fc.string({ maxLength: 6 }), fc.nat({ max: 6 }))
  fc.assert(
    fc.property(fc.array(row, { maxLength: 3_000 }), (rows) => {
      const seen = new SeenAddresses()
      const counted = new Map<string, { line: number; rank: number }>()
      for (const [line, [text, rank]] of rows.entries()) {
        if (rank < (counted.get(text)?.rank ?? 7)) counted.set(text, { line, rank })
        expect(seen.see(text, line, rank)).toBe(counted.get(text)!.line)
      }
      for (const [text, { line }] of counted) expect(seen.lineOf(text)).toBe(line)
    }),
    { numRuns: 20 },
  )
})

const [deep, card] = [
  (signs: string) => signs[0]!.repeat(100_000) + signs[1]!.repeat(100_000),
  (lines: string) => `BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Ann\r\nEMAIL:ann@x.example\r\n${lines}END:VCARD\r\n`,
]
/** What took time by the square of its size, or failed the whole file: a bad row is one refused row, and the rest is read. */
test.each<[string, FileShape['format'], string, boolean[] | 'ends']>([
  [
    'arrays in arrays',
    'json-lines',
    `{"email":"a@x.example"}\n{"x":${deep('[]')}}\n{"email":"b@x.example"}\n`,
    [true, false, true],
  ],
  [
    'objects in objects',
    'json-lines',
    `{"x":${'{"a":'.repeat(50_000)}1${'}'.repeat(50_000)}}\n{"email":"b@x.example"}\n`,
    [false, true],
  ],
  [
    'brackets in a text',
    'json-lines',
    `{"email":"a@x.example","note":"${'[{'.repeat(50_000)} \\" ${'['.repeat(90)}"}\n`,
    [true],
  ],
  ['a picture', 'vcard', card(`PHOTO;ENCODING=b:${`${'A'.repeat(74)}\r\n `.repeat(22_000)}\r\n`), [true]],
  ['lines that nobody reads', 'vcard', card('X-A:b\r\n'.repeat(100_000)), [true]],
  ['many parameters', 'vcard', card(`TEL;${'TYPE=x;'.repeat(400_000)}TYPE=y:1\r\n`) + card(''), [false, true]],
  ['many addresses', 'vcard', card('EMAIL:a@x.example\r\n'.repeat(50_000)) + card(''), [false, true]],
  [
    'a long note, folded at each letter',
    'vcard',
    card(`NOTE:${'x\r\n '.repeat(100_000)}\r\n`) + card(''),
    [false, true],
  ],
  ['no line ends', 'lines', 'x'.repeat(9_000_000), 'ends'],
  ['no line ends, with addresses', 'lines', 'a@x.example,'.repeat(800_000), 'ends'],
  ['no line ends', 'json-lines', 'x'.repeat(9_000_000), 'ends'],
])('%s (%s)', (_, format, text, read) => {
  const { rows, problem } = readAll(text, { format }, 512 * 1024)
  if (read === 'ends') expect(problem?.code).toBe('no-end-of-row')
  else expect(rows.map((row) => row.problem === undefined)).toEqual(read)
})

test('property: no file makes it throw', () => {
  fc.assert(
    fc.property(
      fc.string({ maxLength: 400 }),
      fc.constantFrom('csv', 'json-lines', 'vcard', 'lines'),
      (text, format) => {
        for (const row of imported(text, format as FileShape['format'])) expect(row.line).toBeGreaterThan(0)
      },
    ),
  )
})

test('statuses that a file says are those of the list', () => {
  const text = `Email,Status\n${memberStatuses.map((status, at) => `p${at}@m.example,${status}`).join('\n')}`
  expect(imported(text).map(({ person }) => person?.status)).toEqual([...memberStatuses])
})
