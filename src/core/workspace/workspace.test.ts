import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import fc from 'fast-check'
import { readWorkspace, shiftedTo, type Workspace, writeWorkspace } from '.'

const demoText = readFileSync(resolve(__dirname, '../../../demo/cloudberry-hill.json'), 'utf8')
const demo = JSON.parse(demoText) as Workspace
/** The demo with one thing changed. */
const changed = (change: (workspace: Workspace) => void): string => {
  const copy = structuredClone(demo)
  change(copy)
  return JSON.stringify(copy)
}

test('what is written can be read back and written again, without any difference', () => {
  const reading = readWorkspace(demoText)
  expect(reading).toEqual({ ok: true, workspace: demo })
  expect(writeWorkspace(demo)).toBe(demoText)
})

test('the demo is a workspace of three sites, three lists, at least four forms and sixty days', () => {
  const days = new Set(demo.journal.entries.map(({ at }) => at.slice(0, 10)))
  expect([demo.sites.length, demo.lists.length, demo.forms.length, days.size]).toEqual([3, 3, 5, 60])
})

test.each([
  { why: 'cut off', text: demoText.slice(0, 5000), code: 'not-json', place: '' },
  { why: 'something else', text: '{"hello": 1}', code: 'not-a-workspace', place: 'format' },
  { why: 'an array', text: '[]', code: 'not-a-workspace', place: 'format' },
  { why: 'a newer version', text: changed((one) => ((one.version as number) = 3)), code: 'newer-version', place: 'version' },
  { why: 'a wrong type', text: changed((one) => ((one.forms[2]!.draft.words.heading as unknown) = 5)), code: 'damaged', place: 'forms[2].draft.words.heading' },
  { why: 'a colour that is more than a colour', text: changed((one) => (one.forms[0]!.draft.look.colours.text = 'red;}')), code: 'damaged', place: 'forms[0].draft.look.colours.text' },
  { why: 'a key nobody knows', text: changed((one) => ((one.sites[1] as { more?: number }).more = 1)), code: 'damaged', place: 'sites[1]' },
  { why: 'a form without its list', text: changed((one) => (one.lists = one.lists.slice(1))), code: 'broken-reference', place: 'forms[0].list' },
  { why: 'a spot twice', text: changed((one) => one.spots.push(one.spots[0]!)), code: 'duplicate', place: 'spots[5]' },
  { why: 'a gap in the journal', text: changed((one) => one.journal.entries.splice(10, 1)), code: 'journal-gap', place: 'journal.entries[10].n' },
])('$why: named with its place', ({ text, code, place }) => {
  expect(readWorkspace(text)).toMatchObject({ ok: false, problem: { code, place } })
})

test('property: no text makes reading throw', () => {
  fc.assert(fc.property(fc.oneof(fc.string(), fc.json(), fc.nat(demoText.length).map((at) => demoText.slice(0, at) + demoText.slice(at + 1))), (text) => typeof readWorkspace(text).ok === 'boolean'), { numRuns: 60 })
})

test('moved to another day, hours stay and the newest moment lies within the last day', () => {
  const now = '2031-05-06T12:00:00.000Z'
  const moved = shiftedTo(now, demo)
  const age = Date.parse(now) - Date.parse(moved.exportedAt)
  expect(age).toBeGreaterThanOrEqual(0)
  expect(age).toBeLessThan(86_400_000)
  expect(moved.journal.entries[7]!.at.slice(10)).toBe(demo.journal.entries[7]!.at.slice(10))
})
