import { codeNames } from '#core/embed'
import { attribute, closest, elementsBelow, parsePage } from '#core/submission'
import { type DefaultTreeAdapterTypes as Html } from 'parse5'
import { readAsText } from './as-text'
import { cure } from './cure'
import { cardAround, changed } from './by-hand'
import { checkRule } from './by-rule'
import { builtByScript, unendedLine } from './by-script'
import { evidenceOf, lineAround, linesOf, wordsIn } from './lines'
import type { Mangling } from './manglings'
import { policyFindings } from './policy-findings'
import { codeFor, hasAddress, isCode, isOfOtherReceiver, KINDS, marksOf, NEAR } from './recognise'
import { type NamedSpot, namedInstead, namedWords } from './named-spot'
import { placesOf, reduced } from './reduce'
import { afterManglings, beginningOf, pieceOf, REPLAYS, versionsToTry } from './replay'
import type { Became, ExpectedCode, InstallFinding, InstallReport, PageToCheck } from './report'
import { lineFindings } from './shared-line'
import { holds, tokensOf } from './tokens'
import { visibilityOn } from '#core/usable'
import { useFindings, withinWhat } from './usable'
import { damage, olderFinding } from './words'

/** What only a browser can tell. */
const UNSEEN = new Set<InstallFinding['code']>(['line-unseen', 'styles-unseen', 'by-script'])

/** What became of a spot's code on a page. */
export function checkInstall(whole: PageToCheck, expected: ExpectedCode): InstallReport {
  if (expected.code === 'rule') return checkRule(whole, expected)
  const page = { ...whole, html: reduced(whole.html, placesOf(whole.html, marksOf(expected)), NEAR) }
  const document = parsePage(page.html)
  const elements = elementsBelow(document)
  const ours = elements.filter((element) => isCode(element, expected))
  const instead = ours.length > 0 ? null : whatStandsInstead(whole, { page, document, elements }, expected)
  if (instead !== null) return instead
  const state = whatBecame(page, document, ours, expected)
  const more = [...copyFindings(document, ours, expected), ...sendingFindings(page, ours)]
  if (state.state !== 'absent') more.push(...lineFindings(page, elements, expected))
  if (ours.length > 0) more.push(...policyFindings(page, elements, expected))
  // What became of its text is known; whether it can be used is another question.
  const isHeld = state.findings.every(({ weight }) => weight !== 'damage')
  if (ours.length > 0 && isHeld) more.push(...useFindings(whole, document, expected))

  const findings = [...state.findings, ...more]
  const isDamaged = findings.some(({ weight }) => weight === 'damage')
  const isUnclear = findings.some((finding) => UNSEEN.has(finding.code))
  return {
    ...state,
    state: state.state === 'absent' ? 'absent' : isDamaged ? 'damaged' : isUnclear ? 'unclear' : state.state,
    findings,
  }
}

const damaged = (finding: InstallFinding): InstallReport => ({
  ...{ state: 'damaged', version: null, edits: [] },
  findings: [finding],
})

/** Where the code that was asked for does not stand: another code of the spot, or what keeps it from being seen; null for nothing. */
function whatStandsInstead(
  whole: PageToCheck,
  { page, document, elements }: { page: PageToCheck; document: Html.Document; elements: readonly Html.Element[] },
  expected: ExpectedCode,
): InstallReport | null {
  const standing = KINDS.find(
    (kind) => kind !== expected.code && elements.some((element) => isCode(element, { ...expected, code: kind })),
  )
  if (standing !== undefined) {
    const report = checkInstall(whole, { ...expected, code: standing })
    const hint: InstallFinding = {
      code: 'other-code',
      weight: 'hint',
      message: `Another code of this spot stands there: ${codeNames[standing].toLowerCase()}. It goes on working.`,
      mend: 'Paste the one that is chosen here in its place, or choose the one that stands there.',
      lines: null,
    }
    return { ...report, findings: [hint, ...report.findings] }
  }
  const stranger = elements.find((element) => isOfOtherReceiver(element, expected))
  if (stranger !== undefined)
    return damaged({
      code: 'other-receiver',
      weight: 'damage',
      message: 'This spot’s code stands there, and leads to another receiver than this one.',
      mend: 'Paste the code anew in its place: it was made when the receiver had another address.',
      lines: linesOf(stranger, true),
    })
  const unended = unendedLine(document, expected)
  if (unended !== null) return damaged(unended)
  const material = builtByScript(document, expected)
  if (material !== null) return { state: 'unclear', version: null, edits: [], findings: [material] }
  const within = withinWhat(document, expected)
  return within === null ? null : damaged({ ...within, weight: 'damage', lines: evidenceOf(page.html, [], expected) })
}

/** Of a code that stands there more than once, or within another form. */
function copyFindings(
  document: Html.Document,
  ours: readonly Html.Element[],
  { spot, code, receiver }: ExpectedCode,
): InstallFinding[] {
  const findings: InstallFinding[] = []
  const isPasted = code === 'plain' || code === 'in-tags'
  const copies = ours.filter((element) => !isPasted || element.tagName === 'button')
  const visibility = visibilityOn(document)
  const seen = copies.length > 1 ? copies.filter((one) => visibility.hiddenBy(one) === null) : copies
  if (copies.length > 1)
    findings.push({
      code: 'twice',
      weight: isPasted && seen.length > 1 ? 'damage' : 'hint',
      message: `It stands there ${copies.length === 2 ? 'twice' : `${copies.length} times`}${seen.length < copies.length ? ', not always in sight' : ''}.`,
      mend: 'Keep one, and take out the others: labels of the second lead into the first.',
      lines: linesOf(copies[1]!),
    })
  for (const button of ours.filter(({ tagName }) => tagName === 'button')) {
    const around = closest(button, 'form')
    if (around !== null && attribute(around, 'action') !== `${receiver}/join/${spot.id}`)
      findings.push({
        code: 'inside-form',
        weight: 'hint',
        message: `It stands inside another form, which many builders put around a page. Its button sends it; the Enter key may send that form instead, and what that form asks is sent along.${cardAround(button) === null ? ' Its looks are lost there.' : ''}`,
        mend: `It works by its button. Better is a place outside of that form, or the code for a frame, which no form around it reaches.${cardAround(button) === null ? ' The code as it is made now keeps its looks.' : ''}`,
        lines: linesOf(around, true),
      })
  }
  return findings
}

/** Of a page over https whose code sends over http. */
function sendingFindings(page: PageToCheck, ours: readonly Html.Element[]): InstallFinding[] {
  if (!page.address?.startsWith('https:')) return []
  const open = ours.find((element) =>
    (attribute(element, 'formaction') ?? attribute(element, 'action') ?? attribute(element, 'src'))?.startsWith(
      'http:',
    ),
  )
  return open === undefined
    ? []
    : [
        {
          code: 'http-action',
          weight: 'damage',
          message: 'The page is reached over https, and the code sends over http: browsers warn or refuse.',
          mend: 'Start the receiver with its https address as ASKBOX_PUBLIC_URL, publish, and paste the new code.',
          lines: linesOf(open),
        },
      ]
}

/** A page on which a code is looked for, read. */
interface Read {
  page: PageToCheck
  document: Html.Document
  tokens: ReturnType<typeof tokensOf>
  ours: readonly Html.Element[]
  /** Where something of the code stands; null for nowhere. */
  evidence: InstallFinding['lines']
  /** What was done to a code whose tags stand there as text. */
  asText: readonly Mangling[] | null
  expected: ExpectedCode
}

function whatBecame(
  page: PageToCheck,
  document: Html.Document,
  ours: readonly Html.Element[],
  expected: ExpectedCode,
): Became {
  const { code, versions } = expected
  const isPasted = code === 'plain' || code === 'in-tags'
  const asText = readAsText(document, expected)
  // A link that an editor made of the address in it is none that was pasted.
  if (!isPasted && ours.length > 0 && asText === null) return { state: 'whole', version: null, edits: [], findings: [] }
  const tokens = tokensOf(document.childNodes)
  const read: Read = { page, document, tokens, ours, asText, expected, evidence: evidenceOf(page.html, ours, expected) }
  const named = ours.length > 0 ? null : namedInstead(page.html, expected)
  const namesNone = named !== null && named.name === null
  if (!isPasted && !namesNone && (read.evidence !== null || asText !== null)) return brokenReference(read)
  const explained = isPasted ? explainedByManglings(read) : null
  if (explained !== null) return explained
  if (ours.length > 0) return changed(ours, expected, versions.at(-1)?.number ?? 1)
  if (named !== null) return namesAnother(page, named, expected)
  if (read.evidence === null) return absent(code)
  // No known mangling may explain it, but its tags stand there as text, whatever else was done to it.
  if (asText !== null) return damagedBy(tell(asText, read))
  return damagedBy([
    {
      code: 'changed',
      weight: 'damage',
      message: 'Its words stand there, but the form is not whole any more: something takes its tags out.',
      mend: 'Choose another code that this kind of site leaves whole, such as a link to its page.',
      lines: read.evidence,
    },
  ])
}

const damagedBy = (findings: InstallFinding[]): Became => ({ state: 'damaged', version: null, edits: [], findings })

function tell(does: readonly Mangling[], { page, ours, evidence, expected }: Read): InstallFinding[] {
  const another = cure(does, expected)
  return does.map((one) => {
    const [message, usualMend] = damage[one]
    const mend = another ?? usualMend
    return {
      code: one,
      weight: 'damage',
      message,
      mend,
      lines: evidence ?? (ours[0] ? linesOf(ours[0]) : wordsIn(page.html, expected)),
    }
  })
}

/** A script, frame or link of which something stands there that is none any more. */
function brokenReference(read: Read): Became {
  const { document, tokens, evidence, asText, expected } = read
  const isCurly = () =>
    elementsBelow(document).some(({ attrs }) =>
      attrs.some(({ value }) => /^[“”]/.test(value) && hasAddress(value, expected)),
    )
  const does =
    REPLAYS.find((replay) => replay.includes('as-text') && holds(tokens, beginningOf(expected, replay))) ??
    asText ??
    (isCurly() ? ['curly-quotes' as const] : null)
  if (does !== null) return damagedBy(tell(does, read))
  return damagedBy([
    {
      code: 'changed',
      weight: 'damage',
      message: 'Something of the code stands there, but not as a browser understands it.',
      mend: 'Paste it anew in its place.',
      lines: evidence,
    },
  ])
}

/** The first version and sequence of manglings that leads to what stands there; null where none does. */
function explainedByManglings(read: Read): Became | null {
  const { page, tokens, ours, expected } = read
  const latest = expected.versions.at(-1)?.number ?? 1
  for (const version of versionsToTry(page.html, expected)) {
    const after = afterManglings(codeFor(expected, version))
    for (const replay of REPLAYS) {
      const html = after(replay)
      // A sequence with the same result as an earlier one explains nothing that the earlier one does not.
      if (replay.some((_, at) => pieceOf(after(replay.toSpliced(at, 1)), false) === pieceOf(html, false))) continue
      if (![false, true].some((isWithin) => holds(tokens, pieceOf(html, isWithin)))) continue
      const older = olderFinding(version.number, latest, ours)
      // Its only `style` attribute is the honeypot's, which the style sheet hides as well: without it nothing changes.
      if (expected.code === 'plain' && replay.join() === 'no-style-attributes')
        return { state: 'edited', version: version.number, edits: ['attributes'], findings: older }
      return {
        state: replay.length === 0 ? 'whole' : 'damaged',
        version: version.number,
        edits: [],
        findings: [...tell(replay, read), ...older],
      }
    }
  }
  return null
}

function absent(code: ExpectedCode['code']): Became {
  const finding: InstallFinding = {
    code: 'absent',
    weight: 'damage',
    message:
      code === 'frame'
        ? 'The frame is not there: it was not pasted, not published yet, or this kind of site takes frames out.'
        : 'The code is not there: it was not pasted, not published yet, or a cache shows the page as it was.',
    mend: 'Paste it, publish the page, empty the site’s cache where it has one, and check again.',
    lines: null,
  }
  return { state: 'absent', version: null, edits: [], findings: [finding] }
}

function namesAnother(page: PageToCheck, named: NamedSpot, { spot }: ExpectedCode): Became {
  const { happened, cause, mend } = namedWords(named, spot.id)
  const meant = named.name === null ? named.meant?.id : named.id
  const finding: InstallFinding = {
    code: named.name === null ? 'unknown-spot' : 'other-spot',
    weight: 'damage',
    message: named.name === null ? `${happened} ${cause}` : happened,
    mend,
    lines: lineAround(page.html, named.text),
    ...(meant !== undefined && { spot: meant }),
  }
  return { state: 'absent', version: null, edits: [], findings: [finding] }
}
