import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import fc from 'fast-check'
import { z } from 'zod'
import { anyContent } from '../../../tests/tables/any-form'
import {
  readWorkspace,
  shiftedTo,
  type Workspace,
  workspaceSchema,
  type WorkspaceSource,
  writeWorkspace,
  writeWorkspaceFrom,
} from '.'
import { migrations } from './migrations'

const demoText = readFileSync(resolve(__dirname, '../../../demo/cloudberry-hill.json'), 'utf8')
const demo = JSON.parse(demoText) as Workspace
/** The demo with one thing changed. */
const changed = (change: (workspace: Workspace) => void): string => {
  const copy = structuredClone(demo)
  change(copy)
  return JSON.stringify(copy)
}

/** A second member with the address of the first. */
function addAgain({ journal }: Workspace): void {
  const first = journal.entries.find((entry) => entry.kind === 'arrival' && entry.verdict === 'joined')!
  journal.entries = [
    { ...first, n: 1 },
    { ...first, n: 2, member: 'somebodyelse' as never, id: 'anotherarrival' as never },
  ] as never
}

test('what is written can be read back and written again, without any difference', () => {
  const reading = readWorkspace(demoText)
  expect(reading).toEqual({ ok: true, workspace: demo })
  expect(writeWorkspace(demo)).toBe(demoText)
})

test('written piece by piece it is the same text, whatever the batches', async () => {
  const full: Workspace = {
    ...demo,
    exportedAt: demo.exportedAt,
    videoHosts: ['video.example'],
    rehearseEvery: 'week',
    linkKeys: 'salt.s1.sealed',
    giftPieces: [0, 1].map((at) => ({ file: 'c4'.repeat(32), at, of: 2, bytes: 'Q2xvdWRz' })),
    commands: [],
  }
  const { exportedAt, journal, commands, videoHosts, rehearseEvery, linkKeys, giftPieces, ...rest } = full
  const ordered = { ...rest, exportedAt, giftPieces, videoHosts, rehearseEvery, linkKeys, journal, commands }
  for (const size of [1, 7, 5_000]) {
    const source: WorkspaceSource = {
      exportedAt,
      preferences: { videoHosts: videoHosts!, rehearseEvery },
      journalId: journal.id,
      linkKeys: linkKeys!,
      async *items(part) {
        const all: readonly unknown[] = part === 'journal.entries' ? journal.entries : full[part]
        for (let at = 0; at < all.length; at += size) yield all.slice(at, at + size)
      },
    }
    let text = ''
    for await (const piece of writeWorkspaceFrom(source)) text += piece
    expect(JSON.parse(text)).toEqual(ordered)
    expect(text).toBe(`${JSON.stringify(JSON.parse(text), null, 1)}\n`)
    expect(readWorkspace(text)).toMatchObject({
      ok: true,
      workspace: { videoHosts: ['video.example'], rehearseEvery: 'week', linkKeys },
    })
  }
})

test('a file of an older version is brought up step by step, item by item as well as whole', () => {
  migrations[1] = { sites: ({ title, ...site }) => ({ ...site, name: title }) }
  try {
    const old = JSON.parse(demoText) as {
      version: number
      sites: Record<string, unknown>[]
      journal: { entries: { kind: string; personal?: object }[] }
    }
    old.version = 1
    old.sites = old.sites.map(({ name, ...site }) => ({ ...site, title: name }))
    // Until version 2 the personal part stood among the rest.
    const isOld = (entry: { kind: string }) =>
      !['member-edited', 'member-noted', 'message'].includes(entry.kind) && !('batch' in entry)
    const numbered = <Entry extends object>(all: readonly Entry[]) => all.map((entry, at) => ({ ...entry, n: at + 1 }))
    old.journal.entries = numbered(old.journal.entries.filter(isOld)).map(
      ({ personal, ...entry }) => ({ ...entry, ...personal }) as never,
    )
    const entries = numbered(demo.journal.entries.filter(isOld))
    expect(readWorkspace(JSON.stringify(old))).toEqual({
      ok: true,
      workspace: { ...demo, journal: { ...demo.journal, entries } },
    })
  } finally {
    delete migrations[1]
  }
  expect(readWorkspace(changed((one) => ((one.version as number) = 1)))).toMatchObject({
    ok: false,
    problem: { code: 'damaged', path: 'version' },
  })
})

test('property: any text in any place survives saving and opening unchanged', () => {
  const any = fc.string({ unit: 'grapheme', maxLength: 80 }).filter((text) => !text.includes('\0'))
  fc.assert(
    fc.property(
      fc.oneof(any, fc.constant('x'.repeat(10_000)), fc.constantFrom('"><script>', 'مرحبا “x”', '👩‍🚀', '\u2028')),
      (typed) => {
        const copy = structuredClone(demo)
        const { draft } = copy.forms[0]!
        Object.assign(draft.words, {
          heading: typed,
          button: typed,
          introduction: [{ kind: 'bullets', items: [[{ text: typed, bold: true }]] }],
          quoteBy: typed,
        })
        Object.assign(draft.fields[0]!, { label: typed, placeholder: typed, hint: typed, error: typed })
        copy.journal.entries = []
        const reading = readWorkspace(writeWorkspace(copy))
        expect(reading.ok && reading.workspace.forms[0]!.draft).toEqual(draft)
      },
    ),
    { numRuns: 40 },
  )
})

test('property: any form survives saving and opening unchanged', () => {
  const empty = structuredClone(demo)
  empty.journal.entries = []
  fc.assert(
    fc.property(anyContent, (content) => {
      empty.forms[0]!.draft = content
      const reading = readWorkspace(writeWorkspace(empty))
      expect(reading.ok ? reading.workspace.forms[0]!.draft : reading.problem).toEqual(content)
    }),
    { numRuns: 40 },
  )
})

test('the demo is a workspace of six sites, four lists, nine forms and sixty days', () => {
  const days = new Set(demo.journal.entries.map(({ at }) => at.slice(0, 10)))
  expect([demo.sites.length, demo.lists.length, demo.forms.length, days.size]).toEqual([6, 4, 9, 60])
})

test.each([
  { why: 'cut off', text: demoText.slice(0, 5000), code: 'not-json', path: '' },
  { why: 'something else', text: '{"hello": 1}', code: 'not-a-workspace', path: 'format' },
  { why: 'an array', text: '[]', code: 'not-a-workspace', path: 'format' },
  {
    why: 'a newer version',
    text: changed((one) => ((one.version as number) = 99)),
    code: 'newer-version',
    path: 'version',
  },
  {
    why: 'a wrong type',
    text: changed((one) => ((one.forms[2]!.draft.words.heading as unknown) = 5)),
    code: 'damaged',
    path: 'forms[2].draft.words.heading',
  },
  {
    why: 'a colour that is more than a colour',
    text: changed((one) => (one.forms[0]!.draft.look.colours.text = 'red;}')),
    code: 'damaged',
    path: 'forms[0].draft.look.colours.text',
  },
  {
    why: 'a condition that is more than a choice',
    text: changed((one) => (one.forms[4]!.draft.fields[1]!.showWhen = { field: 'choose-one', is: ['"]{}*{'] })),
    code: 'damaged',
    path: 'forms[4].draft.fields[1].showWhen.is[0]',
  },
  {
    why: 'a link that would run',
    text: changed(
      (one) =>
        (one.forms[0]!.draft.words.small = [
          { kind: 'paragraph', spans: [{ text: 'x', link: 'javascript:alert(1)' }] },
        ]),
    ),
    code: 'damaged',
    path: 'forms[0].draft.words.small[0].spans[0].link',
  },
  {
    why: 'CSS that leaves its rule',
    text: changed(
      (one) =>
        (one.forms[0]!.draft.look.custom.rules = [
          { media: null, selectors: ['p'], declarations: [{ property: 'color', value: 'red}*{color:blue' }] },
        ]),
    ),
    code: 'damaged',
    path: 'forms[0].draft.look.custom.rules[0].declarations[0].value',
  },
  {
    why: 'a theme that is not there',
    text: changed((one) => (one.themes = [])),
    code: 'broken-reference',
    path: 'forms[0].theme',
  },
  {
    why: 'a picture that is not there',
    text: changed((one) => (one.pictures = [])),
    code: 'broken-reference',
    path: 'forms[4].draft',
  },
  {
    why: 'a key nobody knows',
    text: changed((one) => ((one.sites[1] as { more?: number }).more = 1)),
    code: 'damaged',
    path: 'sites[1]',
  },
  {
    why: 'a form without its list',
    text: changed((one) => (one.lists = one.lists.slice(1))),
    code: 'broken-reference',
    path: 'mails[0].list',
  },
  { why: 'a spot twice', text: changed((one) => one.spots.push(one.spots[0]!)), code: 'duplicate', path: 'spots[9]' },
  {
    why: 'a gap in the journal',
    text: changed((one) => one.journal.entries.splice(10, 1)),
    code: 'journal-gap',
    path: 'journal.entries[10].n',
  },
  {
    why: 'an address twice in a list',
    text: changed((one) => addAgain(one)),
    code: 'duplicate',
    path: 'journal.entries[1].personal.email',
  },
  {
    why: 'no list where one belongs',
    text: changed((one) => ((one.sites as unknown) = 5)),
    code: 'damaged',
    path: 'sites',
  },
])('$why: named with its place', ({ text, code, path }) => {
  expect(readWorkspace(text)).toMatchObject({ ok: false, problem: { code, path } })
})

test('property: no text makes reading throw', () => {
  fc.assert(
    fc.property(
      fc.oneof(
        fc.string(),
        fc.json(),
        fc.nat(demoText.length).map((at) => demoText.slice(0, at) + demoText.slice(at + 1)),
      ),
      (text) => typeof readWorkspace(text).ok === 'boolean',
    ),
    { numRuns: 60 },
  )
})

test('moved to another day, hours stay and the newest moment lies within the last day', () => {
  const now = '2031-05-06T12:00:00.000Z'
  const moved = shiftedTo(now, demo)
  const age = Date.parse(now) - Date.parse(moved.exportedAt)
  expect(age).toBeGreaterThanOrEqual(0)
  expect(age).toBeLessThan(86_400_000)
  expect(moved.journal.entries[7]!.at.slice(10)).toBe(demo.journal.entries[7]!.at.slice(10))
})

test('the format’s published schema is that of the files that are read and written', () => {
  const published = JSON.parse(
    readFileSync(resolve(__dirname, '../../../docs/workspace-file.schema.json'), 'utf8'),
  ) as Record<string, unknown>
  const { $comment: _, ...schema } = published
  // Made anew by `npm run demo`.
  expect(schema).toEqual(JSON.parse(JSON.stringify(z.toJSONSchema(workspaceSchema, { unrepresentable: 'any' }))))
})
