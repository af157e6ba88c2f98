import { readFileSync } from 'node:fs'
import { validateXML } from 'xmllint-wasm'
import type { Proof, Step } from '#core/proof'
import { htmlChecker } from '../../../tests/html-checker'
import { list, site, spot } from '../../../tests/tables/samples'
import { proofPage, proofXml } from '.'

const nasty = '<b>&"\'</b>\u0001 \ud800 ]]> نورة 🌙'
const step = (more: Partial<Step>): Step => ({
  case: 'first',
  station: 'answer',
  what: `Somebody ${nasty}`,
  verdict: 'passed',
  seen: nasty,
  ms: 12.5,
  ...more,
})
const proof: Proof = {
  id: 'someproof' as Proof['id'],
  spot: spot.id,
  form: spot.form,
  version: 3,
  code: 'plain',
  at: '2026-03-01T12:00:00.000Z',
  ms: 1234,
  by: 'workshop',
  verdict: 'failed',
  cases: ['first', 'phone'],
  steps: [
    step({ case: 'page', station: 'spot' }),
    step({ case: 'phone', verdict: 'not-tried' }),
    step({
      verdict: 'failed',
      failure: {
        code: 'own-page-missing',
        expected: nasty,
        happened: nasty,
        cause: nasty,
        mend: nasty,
        at: 'answer',
        evidence: [{ kind: 'markup', text: nasty }],
      },
    }),
  ],
  about: { spot, site, list },
}
const names = { form: `A form ${nasty}`, spot: `A spot ${nasty}` }

test('JUnit XML keeps to the schema in common use (junit-4.xsd, Thales 2010), whatever anybody typed', async () => {
  const xml = proofXml([proof, { ...proof, steps: proof.steps.slice(0, 2) }], () => names)
  const { valid, errors } = await validateXML({
    xml: { fileName: 'proof.xml', contents: xml },
    schema: { fileName: 'junit.xsd', contents: readFileSync('tests/schemas/junit-4.xsd', 'utf8') },
  })
  expect(errors.map(({ message }) => message)).toEqual([])
  expect(valid).toBe(true)
  expect(xml).toContain('tests="3" failures="1" errors="0" skipped="1" time="1.234"')
})

test('the proof’s page is good HTML, needs nothing else, and holds all of it as text', async () => {
  const html = proofPage(proof, names, { ...proof, steps: [step({ verdict: 'passed' })] })
  const { results } = await htmlChecker({ extends: ['html-validate:standard'] }).validateString(html)
  expect(results.flatMap(({ messages }) => messages.map(({ ruleId, message }) => `${ruleId}: ${message}`))).toEqual([])
  expect(html).not.toMatch(/<(script|link|img|iframe)\b|url\(|<b>/)
  expect(html).toContain('passed before, failed now')
})
