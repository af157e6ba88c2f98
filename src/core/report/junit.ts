import { caseName, type Proof, type Step } from '#core/proof'
import type { ProofNames } from './page'

/**
 * Proofs as JUnit XML, by the schema in common use (`testsuites`, `testsuite`, `testcase` with `failure` or `skipped`; times
 * in seconds): a suite for each spot, a test case for each step.
 */
export function proofXml(proofs: readonly Proof[], namesOf: (proof: Proof) => ProofNames): string {
  const suites = proofs.map((proof) => {
    const { form, spot } = namesOf(proof)
    const count = (verdict: Step['verdict']) => proof.steps.filter((step) => step.verdict === verdict).length
    const attributes = {
      name: `${spot}: ${form}, version ${proof.version}`,
      tests: String(proof.steps.length),
      failures: String(count('failed')),
      errors: '0',
      skipped: String(count('not-tried')),
      time: seconds(proof.ms),
      // ISO 8601 without a zone, as the schema wants it; in UTC.
      timestamp: proof.at.slice(0, 19),
      hostname: hostOf(proof),
    }
    return tag('testsuite', attributes, [
      ...proof.steps.map((step) => `\n  ${testCase(step)}`),
      '\n  <system-out></system-out>',
      '\n  <system-err></system-err>\n ',
    ])
  })
  return `<?xml version="1.0" encoding="UTF-8"?>\n${tag('testsuites', {}, [
    ...suites.map((suite) => `\n ${suite}`),
    '\n',
  ])}\n`
}

function testCase({ case: one, station, what, verdict, seen, ms, failure }: Step): string {
  const inside =
    failure !== undefined
      ? tag('failure', { message: failure.happened, type: failure.code }, [
          escaped(`Expected: ${failure.expected}\nCause: ${failure.cause}\nMend: ${failure.mend}`),
        ])
      : verdict === 'not-tried'
        ? tag('skipped', {}, [escaped(seen)])
        : ''
  return tag('testcase', { name: what, classname: `${station}.${caseName(one)}`, time: seconds(ms) }, [inside])
}

function hostOf({ about }: Proof): string {
  const host = /^https?:\/\/([^/:?#]+)/.exec(about.spot.page || (about.site?.address ?? ''))?.[1]
  return host ?? 'localhost'
}

function seconds(ms: number): string {
  return (ms / 1000).toFixed(3)
}

function tag(name: string, attributes: Record<string, string>, inside: readonly string[]): string {
  const said = Object.entries(attributes)
    .map(([key, value]) => ` ${key}="${escaped(value)}"`)
    .join('')
  return `<${name}${said}>${inside.join('')}</${name}>`
}

/** Extensible Markup Language 1.0, sections 2.2 and 2.4: characters that XML cannot hold at all are left out. */
function escaped(text: string): string {
  return text
    .replace(/[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu, '')
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;')
    .replace(/\n/g, '&#10;')
}
