import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { inTagsCode } from '#core/inlining'
import { version } from '../../../tests/tables/samples'
import { type PageCase, pageCases } from '../../../tests/verdicts/cases'
import { type KeptPage, pageOf } from '../../../tests/verdicts/recipe'
import type { Verdict } from '../../../tests/verdicts/visitor'
import { isWholeRun, rowsOfThisRun } from '../../../tests/seed'
import { checkInstall, type InstallReport } from '.'

/*
 * The install check against what a visitor in Chromium could do on the same pages (`npm run verdicts`): no page on which
 * nobody can sign up is called fine, hardly a sound one is called damaged, and what is wrong is named.
 */
/** A short run judges one page in so many. */
const PARTS = 16
/** What is said of a share of all pages holds for all of them alone. */
const testOfWhole = isWholeRun ? test : () => {}
const RECEIVER = 'http://localhost:4310'
const verdicts = JSON.parse(readFileSync(join(__dirname, '../../../tests/verdicts/verdicts.json'), 'utf8')) as Record<
  string,
  Verdict
>
let judged: { one: PageCase; verdict: Verdict; report: InstallReport }[]
beforeAll(async () => {
  judged = rowsOfThisRun(await pageCases(RECEIVER), PARTS).map((one) => ({
    one,
    verdict: verdicts[one.name]!,
    report: checkInstall(
      { html: one.html, address: 'http://127.0.0.1:4320/post', policies: [] },
      {
        spot: one.spot,
        code: one.code,
        receiver: RECEIVER,
        versions: [version],
        others: new Map(),
        inTags: inTagsCode,
      },
    ),
  }))
})
const isFine = ({ state }: InstallReport) => state === 'whole' || state === 'edited'
const isAlarm = ({ state }: InstallReport) => state === 'damaged' || state === 'absent'
const words = ({ one, report }: (typeof judged)[number]) =>
  `${one.name}: ${report.state} ${report.findings.map(({ code }) => code).join(' ')}`

testOfWhole('every page was judged, and a third of the damage is by programs', () => {
  expect(judged.length).toBeGreaterThanOrEqual(400)
  expect(judged.filter(({ verdict }) => verdict === undefined).map(words)).toEqual([])
  const harmed = judged.filter(({ verdict }) => verdict !== 'well')
  expect(harmed.filter(({ one }) => one.isByProgram).length / harmed.length).toBeGreaterThanOrEqual(1 / 3)
})

test('no page on which nobody can sign up is called fine', () => {
  expect(judged.filter(({ verdict, report }) => verdict === 'not' && isFine(report)).map(words)).toEqual([])
})

testOfWhole('at most two in a hundred sound pages are called damaged', () => {
  const sound = judged.filter(({ verdict }) => verdict === 'well')
  const alarms = sound.filter(({ report }) => isAlarm(report)).map(words)
  expect({ alarms, isRare: alarms.length / sound.length <= 0.02 }).toMatchObject({ isRare: true })
})

testOfWhole('nine of ten causes are named', () => {
  // What a program does to a code has more than one right name.
  const harmed = judged.filter(({ verdict, one }) => verdict === 'not' && !one.isByProgram)
  expect(harmed.filter(({ one }) => one.causes.length === 0).map(words)).toEqual([])
  const unnamed = harmed.filter(({ one, report }) => !report.findings.some(({ code }) => one.causes.includes(code)))
  expect({ unnamed: unnamed.map(words), isRare: unnamed.length / harmed.length <= 0.1 }).toMatchObject({ isRare: true })
})

test('of pages that were invented and once came out wrong, none is called fine that nobody can use, nor a sound one worse', () => {
  const kept = JSON.parse(readFileSync(join(__dirname, '../../../tests/verdicts/generated.json'), 'utf8')) as KeptPage[]
  const wrong = rowsOfThisRun(kept, PARTS).filter(({ recipe, verdict }) => {
    const { spot, code, html } = pageOf(recipe, RECEIVER)
    const expected = { spot, code, receiver: RECEIVER, versions: [version], others: new Map(), inTags: inTagsCode }
    const report = checkInstall({ html, address: 'http://127.0.0.1:4320/post', policies: [] }, expected)
    return verdict === 'not' ? isFine(report) : verdict === 'well' && isAlarm(report)
  })
  expect(wrong.map(({ from }) => from)).toEqual([])
})
