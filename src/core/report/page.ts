import { caseName, countsOf, differencesBetween, type Evidence, type Proof, type Step, verdictWords } from '#core/proof'
import { documentOf, element, type Node, toDocument } from '#core/render'

/** What a proof is about, in its owner's words. */
export interface ProofNames {
  form: string
  spot: string
}

const stationNames: Record<Step['station'], string> = {
  spot: 'Spot',
  form: 'Form',
  answer: 'Answer',
  mail: 'Mail',
  list: 'List',
}
const verdicts: Record<Proof['verdict'], string> = {
  passed: 'Passed',
  failed: 'Failed',
  stopped: 'Stopped',
  'not-tried': 'Not tried',
}
const evidenceNames: Record<Evidence['kind'], string> = {
  markup: 'On the page',
  request: 'What was sent',
  response: 'What came back',
  member: 'What the list knows',
}

/** A proof as one page that needs nothing else: for a client, a colleague, a drawer. */
export function proofPage(proof: Proof, { form, spot }: ProofNames, before: Proof | null): string {
  const { passed, failed, notTried } = countsOf(proof)
  const differences = before === null ? [] : differencesBetween(before, proof)
  const failure = proof.steps.find((step) => step.failure !== undefined)
  return toDocument(
    documentOf({
      title: `Rehearsal of ${spot}, ${proof.at.slice(0, 10)}`,
      css: CSS,
      body: [
        element(
          'main',
          {},
          element('p', { class: 'kicker' }, 'Rehearsal of the whole way: page, form, answer, list'),
          element('h1', {}, spot),
          element('p', { class: `verdict ${proof.verdict}` }, verdicts[proof.verdict]),
          element(
            'dl',
            {},
            ...pair('Form', form),
            ...pair('Version', String(proof.version)),
            ...pair('When', `${proof.at.slice(0, 16).replace('T', ' ')} UTC, in ${(proof.ms / 1000).toFixed(1)} s`),
            ...pair('Begun by', proof.by === 'workshop' ? 'its owner' : 'the receiver, by itself'),
            ...pair('Page', proof.about.spot.page || proof.about.site?.address || 'a page of its own'),
            ...pair(
              'Cases',
              `${passed} passed${failed > 0 ? `, ${failed} failed` : ''}${notTried > 0 ? `, ${notTried} not tried` : ''}`,
            ),
          ),
          ...(failure === undefined ? [] : [failureNode(failure)]),
          ...(differences.length === 0
            ? []
            : [
                element('h2', {}, 'Other than the time before'),
                element('ul', {}, ...differences.map((one) => element('li', {}, one))),
              ]),
          element('h2', {}, 'All that was tried'),
          element(
            'div',
            { class: 'wide', role: 'region', 'aria-label': 'All that was tried', tabindex: '0' },
            element(
              'table',
              {},
              element(
                'thead',
                {},
                element(
                  'tr',
                  {},
                  ...['Case', 'Station', 'What', 'Seen', 'Outcome', 'Time'].map((name) =>
                    element('th', { scope: 'col' }, name),
                  ),
                ),
              ),
              element('tbody', {}, ...proof.steps.map(row)),
            ),
          ),
          element(
            'p',
            { class: 'note' },
            'Made-up people went this way and were taken out again. “Not tried” is what there was no means to try; it proves nothing.',
          ),
        ),
      ],
    }),
  )
}

function pair(name: string, value: string): Node[] {
  return [element('dt', {}, name), element('dd', {}, value)]
}

function row(step: Step, at: number, all: readonly Step[]): Node {
  const isFirst = all[at - 1]?.case !== step.case
  return element(
    'tr',
    { class: step.verdict },
    element('td', {}, isFirst ? caseName(step.case) : ''),
    element('td', {}, stationNames[step.station]),
    element('td', {}, step.what),
    element('td', {}, step.seen),
    element('td', { class: 'outcome' }, verdictWords[step.verdict]),
    element('td', { class: 'time' }, step.verdict === 'not-tried' ? '' : `${Math.round(step.ms)} ms`),
  )
}

function failureNode({ station, what, failure }: Step): Node {
  const { expected, happened, cause, mend, evidence } = failure!
  return element(
    'section',
    { class: 'failure' },
    element('h2', {}, `${stationNames[station]}: ${what}`),
    element(
      'dl',
      {},
      ...pair('Expected', expected),
      ...pair('Happened', happened),
      ...pair('Likely cause', cause),
      ...pair('What to do', mend),
    ),
    ...evidence.map((one) =>
      element(
        'details',
        {},
        element('summary', {}, evidenceNames[one.kind]),
        element('pre', { tabindex: '0' }, one.text),
      ),
    ),
  )
}

const CSS = [
  ':root{color-scheme:light}body{margin:0;background:#f7f6f3;color:#2a2236;font:16px/1.5 system-ui,sans-serif}',
  'main{max-width:64rem;margin:0 auto;padding:2.5rem 1.25rem}',
  'h1{margin:.2rem 0 .6rem;font-size:1.75rem;line-height:1.2}h2{margin:2rem 0 .6rem;font-size:1.15rem}',
  '.kicker,.note,dt{color:#645e70}.kicker{margin:0}.note{margin-top:1.5rem;font-size:.9rem}',
  '.verdict{display:inline-block;margin:0 0 1rem;padding:.15rem .7rem;border-radius:3px;background:#eaf0df;color:#3a5518;font-weight:700}',
  '.verdict.failed{background:#f9e8ee;color:#a3244f}.verdict.stopped{background:#efede7;color:#2a2236}',
  'dl{display:grid;grid-template-columns:max-content minmax(0,1fr);gap:.2rem 1.25rem;margin:0;overflow-wrap:anywhere}dd{margin:0}',
  '.failure{margin-top:1.5rem;padding:.2rem 1.25rem 1rem;border-left:4px solid #a3244f;background:#f9e8ee}.failure h2{margin-top:.8rem}.failure dt{color:#5a5366}',
  '.wide{overflow-x:auto}table{width:100%;border-collapse:collapse;font-size:.9rem;background:#fff}th,td{padding:.35rem .6rem;border-bottom:1px solid #dcd8cf;text-align:start;vertical-align:top}td{overflow-wrap:anywhere;min-width:4.5rem}th{white-space:nowrap}',
  '.time,.outcome{white-space:nowrap}.time{text-align:end;font-variant-numeric:tabular-nums}.passed .outcome{color:#4a6b1f}.failed .outcome{color:#a3244f;font-weight:700}.not-tried .outcome{color:#645e70}',
  'pre{max-height:20rem;margin:.5rem 0 0;padding:.6rem;overflow:auto;background:#fff;font-size:.8rem;white-space:pre-wrap;overflow-wrap:anywhere}summary{cursor:pointer}',
  '@media print{body{background:#fff}details{display:none}}',
  '@media(max-width:40rem){dl{grid-template-columns:minmax(0,1fr)}dd{margin-bottom:.4rem}table{font-size:.8rem}th,td{padding:.3rem}}',
].join('\n')
