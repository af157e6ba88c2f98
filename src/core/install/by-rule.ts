import { appliesTo, placesOf, placeWords } from '#core/rule'
import { elementsBelow, parsePage } from '#core/submission'
import { parsedTree } from '#core/usable'
import { policyFindings } from './policy-findings'
import { isCode, KINDS } from './recognise'
import type { ExpectedCode, InstallFinding, InstallReport, PageToCheck } from './report'
import { lineFindings } from './shared-line'

/** A page of fewer letters may be built by its scripts. */
const FEW_LETTERS = 200

/** Whether the shared line finds the place of a rule on a page. What it puts there is no part of the page’s source. */
export function checkRule(page: PageToCheck, expected: ExpectedCode): InstallReport {
  const { spot, under = '/' } = expected
  const rule = spot.placing?.published ?? null
  const found = (findings: InstallFinding[]): InstallReport => ({
    state: findings.some(({ code }) => code === 'no-place')
      ? 'absent'
      : findings.some(({ weight }) => weight === 'damage')
        ? 'damaged'
        : findings.some(({ code }) => code === 'by-script' || code === 'line-unseen')
          ? 'unclear'
          : 'whole',
    version: null,
    edits: [],
    findings,
  })
  if (rule === null) return found([finding('rule-unpublished', 'The rule is not published.', 'Publish it.')])
  const document = parsePage(page.html)
  const elements = elementsBelow(document)
  const asScript = { ...expected, code: 'script' as const, spot: { ...spot, kind: 'inline' as const } }
  const lines = [...lineFindings(page, elements, asScript), ...policyFindings(page, elements, asScript)]
  const tree = parsedTree(document)
  const path = page.address === null || !URL.canParse(page.address) ? null : new URL(page.address).pathname
  if (path !== null && !appliesTo({ ...rule, under }, path, tree))
    return found([
      ...lines,
      finding('rule-elsewhere', 'The rule does not mean this page.', 'Change its pages, or look at another page.'),
    ])
  const pasted = KINDS.find((code) => elements.some((one) => isCode(one, { ...expected, code })))
  if (pasted !== undefined)
    lines.push(
      finding(
        'other-code',
        'The spot’s pasted code stands there as well: it goes before the rule, which puts no second form there.',
        'Take the pasted code out, and the rule puts the form where you say.',
        'hint',
      ),
    )
  const places = placesOf(tree, rule)
  if (places.length > 0) return found(lines)
  const isBuilt =
    tree.text(tree.body).trim().length < FEW_LETTERS && elements.some(({ tagName }) => tagName === 'script')
  return found([
    ...lines,
    isBuilt
      ? finding(
          'by-script',
          'Scripts build this page: whether the place is there, only a browser sees.',
          'Rehearse the spot: with a browser at the receiver it tells.',
          'hint',
        )
      : finding(
          'no-place',
          `Nothing on the page is meant by “${placeWords(rule.place, rule.times)}”: no form stands there.`,
          'Choose another place, or leave such pages out.',
        ),
  ])
}

const finding = (
  code: InstallFinding['code'],
  message: string,
  mend: string,
  weight: InstallFinding['weight'] = 'damage',
): InstallFinding => ({ code, weight, message, mend, lines: null })
