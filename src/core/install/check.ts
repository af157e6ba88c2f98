import {
  defaultTreeAdapter as tree,
  type DefaultTreeAdapterTypes as Html,
  parse,
  parseFragment,
  serialize,
} from 'parse5'
import { codeNames, frameAddress, pageAddress, placePart, plainCode, popUpPart } from '#core/embed'
import type { FormId } from '#core/ids'
import { honeypotName, type Version } from '#core/form'
import { personFor } from '#core/proof'
import type { PlacedForm } from '#core/render'
import type { CodeKind, Spot } from '#core/spot'
import { ancestorsOf, attribute, closest, elementsBelow, isSubmitButton, resolvedOn, typeOf } from '#core/submission'
import { buttonOf, filledIn, fillsOf, formWith, obstacleIn, visibilityOn } from '#core/usable'
import { mangled, type Mangling } from './manglings'
import { forbiddenBy } from './policy'
import { placesOf, reduced } from './reduce'
import { BETWEEN, holds, squeezed, tokensOf } from './tokens'

/** A page as it was fetched, pasted or dropped. */
export interface PageToCheck {
  html: string
  /** Where it was fetched, after redirects; null for one that was not. */
  address: string | null
  /** Of its `Content-Security-Policy` headers. */
  policies: readonly string[]
}

/** What should stand there. */
export interface ExpectedCode {
  spot: Spot
  code: CodeKind
  /** Where visitors reach the receiver, without a slash at the end. */
  receiver: string
  /** All versions of the spot's form, oldest first. */
  versions: readonly Version[]
  /** The owner's other spots, by id. */
  others: ReadonlyMap<string, string>
  /** Makes the plain code with styles in its tags. Given by the caller, because it weighs. */
  inTags?: (placed: PlacedForm) => string
}

export type InstallFindingCode =
  | 'absent'
  | 'other-spot'
  | 'other-code'
  | 'other-receiver'
  | Mangling
  | 'changed'
  | 'in-comment'
  | 'in-template'
  | 'in-noscript'
  | 'form-lost'
  | 'hidden'
  | 'trap-visible'
  | 'no-button'
  | 'button-disabled'
  | 'submit-stopped'
  | 'field-locked'
  | 'foreign-required'
  | 'answer-unseen'
  | 'sandboxed'
  | 'link-empty'
  /** Met by a browser. */
  | 'unusable'
  | 'by-script'
  | 'inside-form'
  | 'twice'
  | 'older'
  | 'line-missing'
  | 'line-unseen'
  | 'line-inert'
  | 'line-twice'
  | 'http-action'
  | 'policy'

export interface InstallFinding {
  code: InstallFindingCode
  /** A hint does no harm now. */
  weight: 'damage' | 'hint'
  message: string
  mend: string
  /** Lines of the page's source concerned, from 1, both included; null for what is not there. */
  lines: [from: number, to: number] | null
}

export interface InstallReport {
  /** `unclear` where only a browser can tell whether it works. */
  state: 'whole' | 'edited' | 'damaged' | 'absent' | 'unclear'
  /** The version whose code stands there; null where code has none or none was found. */
  version: number | null
  /** What was changed by hand and does no harm. */
  edits: string[]
  findings: InstallFinding[]
}

/** Orders of damage that are tried, those that do most first: what they leave holds what the lesser ones leave. */
const REPLAYS: readonly (readonly Mangling[])[] = [
  [],
  ['curly-quotes', 'as-text', 'paragraphs'],
  ['as-text', 'paragraphs'],
  ['curly-quotes', 'as-text'],
  ['as-text'],
  ['curly-quotes', 'paragraphs'],
  ['paragraphs'],
  ['curly-quotes'],
  ['no-style-sheets', 'no-attributes'],
  ['no-attributes'],
  ['no-style-sheets', 'no-style-attributes'],
  ['no-style-sheets'],
  ['no-style-attributes'],
  ['no-forms', 'no-attributes', 'no-style-sheets'],
  ['no-forms', 'no-style-sheets', 'no-style-attributes'],
  ['no-forms', 'no-style-sheets'],
  ['no-forms'],
  ['links-only'],
]

const damage: Record<Mangling, [message: string, mend: string]> = {
  'as-text': [
    'The code stands there as text: visitors read it.',
    'Take it out of the words, and paste it into the editor’s place for HTML.',
  ],
  'curly-quotes': [
    'Its straight quotes became curly ones, so browsers do not understand its tags.',
    'Paste it into the editor’s place for HTML, which leaves quotes alone.',
  ],
  paragraphs: [
    'The editor put paragraphs and line breaks into the code.',
    'Paste it into the editor’s place for HTML, which leaves line breaks alone.',
  ],
  'no-style-sheets': [
    'Its style sheet was taken out: it stands there without its looks.',
    'Choose the code with styles in its tags, or a frame.',
  ],
  'no-style-attributes': ['Its style attributes were taken out.', 'Choose the code with a style sheet, or a frame.'],
  'no-attributes': [
    'Names of classes and parts were taken out, so its styles find nothing.',
    'Choose a frame, or a link to its page.',
  ],
  'no-forms': [
    'The form and its fields were taken out; the words are left.',
    'This kind of site takes no forms: choose a script, a frame, or a link to its page.',
  ],
  'no-scripts': ['The script was taken out.', 'Choose the form itself, or a link to its page.'],
  'no-frames': ['The frame was taken out.', 'Choose a link to its page.'],
  'links-only': [
    'Only words and links were left of it.',
    'This kind of site takes links alone: choose a link to its page.',
  ],
}

/** What became of a spot's code on a page. */
export function checkInstall(whole: PageToCheck, expected: ExpectedCode): InstallReport {
  const { spot, code, receiver } = expected
  const page = { ...whole, html: reduced(whole.html, placesOf(whole.html, marksOf(expected)), NEAR) }
  const document = parse(page.html, { sourceCodeLocationInfo: true })
  const elements = elementsBelow(document)
  const ours = elements.filter((element) => isCode(element, expected))
  const standing =
    ours.length > 0
      ? undefined
      : KINDS.find((kind) => kind !== code && elements.some((element) => isCode(element, { ...expected, code: kind })))
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
  const stranger = ours.length > 0 ? undefined : elements.find((element) => isOfOtherReceiver(element, expected))
  if (stranger !== undefined)
    return {
      state: 'damaged',
      version: null,
      edits: [],
      findings: [
        {
          code: 'other-receiver',
          weight: 'damage',
          message: 'This spot’s code stands there, and leads to another receiver than this one.',
          mend: 'Paste the code anew in its place: it was made when the receiver had another address.',
          lines: linesOf(stranger, true),
        },
      ],
    }
  const within = ours.length > 0 ? null : withinWhat(document, expected)
  if (within !== null)
    return {
      state: 'damaged',
      version: null,
      edits: [],
      findings: [{ ...within, weight: 'damage', lines: evidenceOf(page.html, ours, expected) }],
    }
  const found = whatBecame(page, document, ours, expected)
  const more: InstallFinding[] = []
  const add = (finding: InstallFinding) => more.push(finding)

  const copies = ours.filter((element) => !(code === 'plain' || code === 'in-tags') || element.tagName === 'button')
  if (copies.length > 1)
    add({
      code: 'twice',
      weight: code === 'script' ? 'hint' : 'damage',
      message: `It stands there ${copies.length === 2 ? 'twice' : `${copies.length} times`}.`,
      mend: 'Keep one, and take out the others: labels of the second lead into the first.',
      lines: linesOf(copies[1]!),
    })
  for (const button of ours.filter(({ tagName }) => tagName === 'button')) {
    const around = closest(button, 'form')
    if (around !== null && attribute(around, 'action') !== `${receiver}/join/${spot.id}`)
      add({
        code: 'inside-form',
        weight: 'hint',
        message: `It stands inside another form, which many builders put around a page. Its button sends it; the Enter key may send that form instead, and what that form asks is sent along.${cardAround(button) === null ? ' Its looks are lost there.' : ''}`,
        mend: `It works by its button. Better is a place outside of that form, or the code for a frame, which no form around it reaches.${cardAround(button) === null ? ' The code as it is made now keeps its looks.' : ''}`,
        lines: linesOf(around, true),
      })
  }
  for (const element of ours) {
    const address = attribute(element, 'formaction') ?? attribute(element, 'action') ?? attribute(element, 'src')
    if (
      page.address?.startsWith('https:') &&
      address?.startsWith('http:') &&
      !more.some((one) => one.code === 'http-action')
    )
      add({
        code: 'http-action',
        weight: 'damage',
        message: 'The page is reached over https, and the code sends over http: browsers warn or refuse.',
        mend: 'Start the receiver with its https address as ASKBOX_PUBLIC_URL, publish, and paste the new code.',
        lines: linesOf(element),
      })
  }
  if (found.state !== 'absent') for (const finding of lineFindings(page, elements, expected)) add(finding)
  if (ours.length > 0) for (const finding of policyFindings(page, elements, expected)) add(finding)
  // What became of its text is known; whether it can be used is another question.
  const isHeld = found.findings.every(({ weight }) => weight !== 'damage')
  if (ours.length > 0 && isHeld) for (const finding of useFindings(whole, document, expected)) add(finding)

  const findings = [...found.findings, ...more]
  const isDamaged = findings.some(({ weight }) => weight === 'damage')
  const isUnclear = findings.some((finding) => finding.code === 'line-unseen')
  return {
    ...found,
    state: found.state === 'absent' ? 'absent' : isDamaged ? 'damaged' : isUnclear ? 'unclear' : found.state,
    findings,
  }
}

/** Where code stands that browsers do not read as such: in a comment, a template, what is for no scripts, a field for text. */
function withinWhat(
  document: Html.Document,
  expected: ExpectedCode,
): Pick<InstallFinding, 'code' | 'message' | 'mend'> | null {
  const { spot, code, receiver } = expected
  const addresses =
    code === 'plain' || code === 'in-tags' ? [`${receiver}/join/${spot.id}`] : addressesOf({ spot, code, receiver })
  const holds = (text: string) =>
    addresses.some((address) => text.includes(address) || text.includes(address.replaceAll('&', '&amp;')))
  const mend = 'Take it out of there, and paste it where the page’s words stand.'
  const look = (node: Html.Node): Pick<InstallFinding, 'code' | 'message' | 'mend'> | null => {
    if (tree.isCommentNode(node))
      return holds(node.data)
        ? { code: 'in-comment', message: 'The code stands within a comment: browsers skip it.', mend }
        : null
    if (!('childNodes' in node)) return null
    if (tree.isElementNode(node)) {
      const { tagName } = node
      if (tagName === 'template')
        return holds(serialize((node as Html.Template).content))
          ? { code: 'in-template', message: 'The code stands within <template>: browsers show nothing of it.', mend }
          : null
      if (tagName === 'noscript' && holds(textIn(node)))
        return {
          code: 'in-noscript',
          message: 'The code stands within <noscript>: only browsers without scripts show it.',
          mend,
        }
      if (['textarea', 'title', 'xmp'].includes(tagName) && holds(textIn(node)))
        return { code: 'as-text', message: damage['as-text'][0], mend: damage['as-text'][1] }
    }
    for (const child of node.childNodes) {
      const found = look(child)
      if (found !== null) return found
    }
    return null
  }
  return look(document)
}

/** Up to here a page is looked at whole: what hides the code may stand far before it. In UTF-16 code units. */
const WHOLE = 500_000

/** Whether somebody could use what stands there whole: sees it, fills it in, presses. As far as the page itself tells. */
function useFindings(whole: PageToCheck, reducedPage: Html.Document, expected: ExpectedCode): InstallFinding[] {
  const { spot, code, receiver, versions } = expected
  const content = versions.at(-1)?.content
  const document = whole.html.length > WHOLE ? reducedPage : parse(whole.html, { sourceCodeLocationInfo: true })
  const visibility = visibilityOn(document)
  const found = (code: InstallFindingCode, message: string, mend: string, element: Html.Element): InstallFinding[] => [
    { code, weight: 'damage', message, mend, lines: linesOf(element, true) },
  ]
  const hidden = (by: string, element: Html.Element) =>
    found(
      'hidden',
      `It stands there, and visitors do not see it or cannot press it: ${by}.`,
      'Take that away, or paste the code where nothing hides it.',
      element,
    )
  if (code === 'plain' || code === 'in-tags') {
    const action = `${receiver}/join/${spot.id}`
    const form = formWith(document, action)
    const first = elementsBelow(document).find((element) => isCode(element, expected))!
    if (form === undefined || form.controls.length === 0)
      return found(
        'form-lost',
        'Its fields stand there without the form around them: pressing the button sends nothing.',
        'This kind of site takes forms out: choose a script, a frame, or a link to its page.',
        first,
      )
    const fills = content === undefined ? [] : fillsOf(content, personFor(content, 'ilse@people.example'))
    const button = buttonOf(form, action)
    for (const one of [...filledIn(form, fills).touches.keys(), ...(button === null ? [] : [button]), form.form]) {
      const by = attribute(one, 'type') === 'hidden' ? null : visibility.hiddenBy(one)
      if (by !== null) return hidden(by, one)
    }
    const trap = form.controls.find((control) => attribute(control, 'name') === honeypotName(spot.form))
    if (trap !== undefined && visibility.hiddenBy(trap, { isOnlySeen: true }) === null)
      return found(
        'trap-visible',
        'The field that only bots fill in can be seen: people fill it in, and are taken for bots.',
        'Paste the code anew, or choose a frame or a script, which the site’s styles do not reach.',
        trap,
      )
    const obstacle = obstacleIn(document, form, action, fills, visibility)
    return obstacle === null
      ? []
      : found(obstacle.code as InstallFindingCode, obstacle.happened, obstacle.mend, form.form)
  }
  if (spot.kind === 'pop-up') return []
  const element = elementsBelow(document).find((one) => isCode(one, expected))
  if (element === undefined) return []
  const by = visibility.hiddenBy(element, { isReset: code === 'script' })
  if (by !== null) return hidden(by, element)
  if (code === 'frame') {
    const sandbox = attribute(element, 'sandbox')
    if (sandbox !== null && !sandbox.toLowerCase().split(/\s+/).includes('allow-forms'))
      return found(
        'sandboxed',
        'The frame’s sandbox lets no form be sent.',
        'Add “allow-forms allow-scripts allow-popups” to its sandbox, or take “sandbox” away.',
        element,
      )
    if (attribute(element, 'srcdoc') !== null)
      return found('changed', 'The frame shows something else in its place (srcdoc).', 'Paste the code anew.', element)
  }
  if (code === 'link') {
    const isEmpty =
      textIn(element).trim() === '' && !elementsBelow(element).some(({ tagName }) => ['img', 'svg'].includes(tagName))
    if (isEmpty)
      return found(
        'link-empty',
        'The link is there and has no words: nobody can see or press it.',
        'Paste it anew, with its words.',
        element,
      )
    if (/\breturn\s+false\b|preventDefault\s*\(/.test(attribute(element, 'onclick') ?? ''))
      return found('submit-stopped', 'A handler on the link keeps it from opening.', 'Take “onclick” away.', element)
  }
  return []
}

/** Codes that are told apart by their elements. */
const KINDS: readonly CodeKind[] = ['plain', 'script', 'frame', 'link']

/** Longer than any code, damaged or not, from its nearest mark to its ends: characters. */
const NEAR = 16_000

/** Texts of which at least one is left of a code, whatever became of it. */
function marksOf({ spot, receiver, versions, others }: ExpectedCode): string[] {
  const content = versions.at(-1)?.content
  const words = [content?.words.heading, content?.words.button, ...(content?.fields.map(({ label }) => label) ?? [])]
  return [
    receiver,
    ...[spot.id, ...others.keys()].map((id) => `/join/${id}`),
    ...[`/page/${spot.id}`, `/frame/${spot.id}`, `#pop-up-${spot.id}`],
    // Of words, a stretch that no editor writes in another way.
    ...words.flatMap((text) => /[\p{L}\p{N} ]{4,}/u.exec(text ?? '')?.[0].trim() ?? []),
  ].filter((text) => text.length > 3)
}

/** The elements by which a spot's code is known. */
function isCode(element: Html.Element, { spot, code, receiver }: ExpectedCode): boolean {
  const has = (name: string, value: string) => attribute(element, name) === value
  // Optimizers leave out the scheme.
  const isAddress = (name: string, value: string) => has(name, value) || has(name, value.replace(/^https?:/, ''))
  if (code === 'script' && spot.kind === 'pop-up')
    return (
      element.tagName === 'script' &&
      scriptAddress(element, receiver, true) === `${receiver}/askbox.js#pop-up-${spot.id}`
    )
  switch (code) {
    case 'plain':
    case 'in-tags':
      return has('action', `${receiver}/join/${spot.id}`) || has('formaction', `${receiver}/join/${spot.id}`)
    default:
      return addressesOf({ spot, code, receiver }).some(
        (address) =>
          isAddress('href', address) ||
          isAddress('src', address) ||
          attribute(element, 'href')?.startsWith(`${address}?`),
      )
  }
}

/** The same code as it would be from another address of the receiver. */
function isOfOtherReceiver(element: Html.Element, { spot, code, receiver }: ExpectedCode): boolean {
  const ends =
    code === 'plain' || code === 'in-tags'
      ? [`/join/${spot.id}`]
      : addressesOf({ spot, code, receiver }).map((address) => address.slice(receiver.length))
  return ['action', 'formaction', 'href', 'src'].some((name) => {
    const address = attribute(element, name) ?? ''
    return /^https?:\/\//.test(address) && ends.some((end) => address.endsWith(end) && !address.startsWith(receiver))
  })
}

type Became = Pick<InstallReport, 'state' | 'version' | 'edits' | 'findings'>

function whatBecame(
  page: PageToCheck,
  document: Html.Document,
  ours: readonly Html.Element[],
  expected: ExpectedCode,
): Became {
  const { code, versions } = expected
  const isPasted = code === 'plain' || code === 'in-tags'
  const latest = versions.at(-1)?.number ?? 1
  if (!isPasted && ours.length > 0) return { state: 'whole', version: null, edits: [], findings: [] }
  const tokens = tokensOf(document.childNodes)
  const evidence = evidenceOf(page.html, ours, expected)
  const tell = (does: readonly Mangling[]): InstallFinding[] =>
    does.map((one) => {
      const [message, mend] = damage[one]
      return {
        code: one,
        weight: 'damage',
        message,
        mend,
        lines: evidence ?? (ours[0] ? linesOf(ours[0]) : wordsIn(page.html, expected)),
      }
    })
  if (!isPasted && evidence !== null) {
    const does =
      REPLAYS.find((replay) => replay.includes('as-text') && holds(tokens, beginningOf(expected, replay))) ??
      (elementsBelow(document).some(({ attrs }) =>
        attrs.some(({ value }) => /^[“”]/.test(value) && hasAddress(value, expected)),
      )
        ? ['curly-quotes' as const]
        : null)
    return {
      state: 'damaged',
      version: null,
      edits: [],
      findings:
        does === null
          ? [
              {
                code: 'changed',
                weight: 'damage',
                message: 'Something of the code stands there, but not as a browser understands it.',
                mend: 'Paste it anew in its place.',
                lines: evidence,
              },
            ]
          : tell(does),
    }
  }
  if (isPasted)
    for (const version of versionsToTry(page.html, expected)) {
      const after = afterManglings(codeFor(expected, version))
      for (const replay of REPLAYS) {
        const html = after(replay)
        // One that leaves the code as another does explains nothing more.
        if (replay.some((_, at) => pieceOf(after(replay.toSpliced(at, 1)), false) === pieceOf(html, false))) continue
        for (const isWithin of [false, true]) {
          if (!holds(tokens, pieceOf(html, isWithin))) continue
          // The code with a style sheet has one attribute of style, which hides what is hidden by another as well.
          if (code === 'plain' && replay.join() === 'no-style-attributes')
            return {
              state: 'edited',
              version: version.number,
              edits: ['attributes'],
              findings: olderFinding(version.number, latest, ours),
            }
          return {
            state: replay.length === 0 ? 'whole' : 'damaged',
            version: version.number,
            edits: [],
            findings: [...tell(replay), ...olderFinding(version.number, latest, ours)],
          }
        }
      }
    }
  if (ours.length > 0) return changed(ours, expected, latest)
  const other = otherSpotIn(page.html, expected)
  if (evidence !== null && other === undefined) {
    // In no way that is known, but the tags can be read: it is text, whatever else was done to it.
    const asText = /<form class=(["“”])/.exec(tokens.replace(/\u0001/g, ' '))
    return {
      state: 'damaged',
      version: null,
      edits: [],
      findings:
        asText === null || elementsBelow(document).some((element) => attribute(element, 'class')?.includes('askbox '))
          ? [
              {
                code: 'changed',
                weight: 'damage',
                message: 'Its words stand there, but the form is not whole any more: something takes its tags out.',
                mend: 'Choose another code that this kind of site leaves whole, such as a link to its page.',
                lines: evidence,
              },
            ]
          : tell(asText[1] === '"' ? ['as-text'] : ['curly-quotes', 'as-text']),
    }
  }
  return {
    state: 'absent',
    version: null,
    edits: [],
    findings: [
      other === undefined
        ? {
            code: 'absent',
            weight: 'damage',
            message:
              code === 'frame'
                ? 'The frame is not there: it was not pasted, not published yet, or this kind of site takes frames out.'
                : 'The code is not there: it was not pasted, not published yet, or a cache shows the page as it was.',
            mend: 'Paste it, publish the page, empty the site’s cache where it has one, and check again.',
            lines: null,
          }
        : {
            code: 'other-spot',
            weight: 'damage',
            message: `The code of another spot stands there: ${other[1]}.`,
            mend: 'Where both are meant to be on the page, paste this spot’s code beside it. Put it in its place only where that one was pasted by mistake.',
            lines: lineAround(page.html, other[0]),
          },
    ],
  }
}

/** Another spot of the owner's whose code stands there, with its name. */
function otherSpotIn(html: string, { receiver, others, spot }: ExpectedCode): [id: string, name: string] | undefined {
  const parts = html.split(receiver).slice(1)
  return [...others].find(
    ([id]) =>
      id !== spot.id &&
      parts.some((part) => new RegExp(`^/(?:join/|page/|frame/|askbox\\.js#pop-up-)${id}(?![a-z0-9])`).test(part)),
  )
}

/** The newest, then whichever the page itself names. */
function versionsToTry(html: string, { versions }: ExpectedCode): Version[] {
  const named = Number(
    /name=(?:"|&quot;|”|“)?askbox-version(?:"|&quot;|”|“)? value=(?:"|&quot;|”|“)?(\d+)/.exec(html)?.[1],
  )
  const newest = versions.at(-1)
  return [newest, versions.find(({ number }) => number === named && number !== newest?.number)].filter(
    (one) => one !== undefined,
  )
}

function olderFinding(number: number, latest: number, ours: readonly Html.Element[]): InstallFinding[] {
  if (number >= latest) return []
  return [
    {
      code: 'older',
      weight: 'damage',
      message: `It is the code of version ${number}; version ${latest} is published.`,
      mend: 'It works and looks as it did then. Paste the new code in its place.',
      lines: ours[0] ? linesOf(ours[0]) : null,
    },
  ]
}

/** What is left of a code after some manglings. Replays begin alike, so each beginning is worked out once. */
function afterManglings(code: string): (replay: readonly Mangling[]) => string {
  const known = new Map([['', code]])
  return function after(replay: readonly Mangling[]): string {
    const key = replay.join()
    const html = known.get(key) ?? mangled(after(replay.slice(0, -1)), replay.at(-1)!)
    known.set(key, html)
    return html
  }
}

/** The code as published, for the codes that hold the form itself. */
function codeFor({ code, spot, receiver, inTags }: ExpectedCode, { content, form, number }: Version): string {
  const placed = { content, form, version: number, spot: spot.id, receiver }
  return code === 'in-tags' && inTags !== undefined ? inTags(placed) : plainCode(placed)
}

/** What identifies the codes that fetch the form: the address in them, with the beginning of the piece that it stands in. */
function addressesOf({ spot, code, receiver }: Pick<ExpectedCode, 'spot' | 'code' | 'receiver'>): string[] {
  switch (code) {
    case 'script':
      return [
        spot.kind === 'pop-up' ? `${receiver}/askbox.js#pop-up-${spot.id}` : `${pageAddress(receiver, spot.id)}#askbox`,
      ]
    case 'frame':
      return [frameAddress(receiver, spot.id)]
    default:
      return [spot.id, spot.slug].flatMap((end) => (end === undefined ? [] : [pageAddress(receiver, end)]))
  }
}

function hasAddress(text: string, expected: ExpectedCode): boolean {
  return addressesOf(expected).some((address) => text.includes(address))
}

/** A damaged piece's tokens as far as its address, after which pieces differ by what was measured or chosen. */
function beginningOf(expected: ExpectedCode, replay: readonly Mangling[]): string {
  const { spot, code, receiver, versions } = expected
  const [address] = addressesOf(expected)
  const whole =
    code !== 'script'
      ? `<${code === 'frame' ? 'iframe src' : 'a href'}="${address}"`
      : spot.kind === 'pop-up'
        ? popUpPart(receiver, spot.id)
        : placePart(versions.at(-1)!.content, receiver, spot.id, null)
  const until = whole.indexOf(address!) + address!.length
  const tokens = tokensOf(parseFragment(mangled(whole.slice(0, until), ...replay)).childNodes).split(BETWEEN)
  // What closes in the beginning goes on in the whole.
  while (tokens.at(-1)?.startsWith('</')) tokens.pop()
  return tokens.join(BETWEEN)
}

const pieces = new Map<string, string>()

/** Its tokens alone, or as the browser reads them inside another form. */
function pieceOf(html: string, isWithinForm: boolean): string {
  const source = isWithinForm ? `<form>${html}</form>` : html
  const known = pieces.get(source)
  if (known !== undefined) return known
  const { childNodes } = parseFragment(source)
  const piece = tokensOf(isWithinForm ? ((childNodes[0] as Html.Element | undefined)?.childNodes ?? []) : childNodes)
  if (pieces.size > 500) pieces.clear()
  pieces.set(source, piece)
  return piece
}

/** Where something of the code stands that is no element of it any more: its lines, or null. */
function evidenceOf(html: string, ours: readonly Html.Element[], expected: ExpectedCode): [number, number] | null {
  const { spot, receiver, code, versions } = expected
  if (ours.length > 0) return null
  if (code !== 'plain' && code !== 'in-tags') {
    const address = addressesOf(expected).find((one) => html.includes(one))
    return address === undefined ? null : lineAround(html, address)
  }
  const address = `${receiver}/join/${spot.id}`
  if (html.includes(address)) return lineAround(html, address)
  // Without its addresses, its words are what is left.
  const { heading = '', button = '' } = versions.at(-1)?.content.words ?? {}
  return heading !== '' && [heading, button].every((text) => squeezed(html).includes(squeezed(text)))
    ? wordsIn(html, expected)
    : null
}

/** Where the first of the form's words stands that is found. */
function wordsIn(html: string, { versions }: ExpectedCode): [number, number] | null {
  const content = versions.at(-1)?.content
  const words = [content?.words.heading, content?.words.button, ...(content?.fields.map(({ label }) => label) ?? [])]
  const found = words.find((text) => text && html.includes(text))
  return found === undefined ? null : lineAround(html, found)
}

/** Neither as published nor damaged in a known way: by hand, then. What matters is named, what does not is told apart. */
function changed(ours: readonly Html.Element[], expected: ExpectedCode, latest: number): Became {
  const { spot, receiver } = expected
  const ownForm = ours.find(({ tagName }) => tagName === 'form')
  // Where a sanitizer took its own address away, the form's counts.
  const button =
    ours.find(({ tagName }) => tagName === 'button') ??
    (ownForm && elementsBelow(ownForm).find((one) => one.tagName === 'button' && isSubmitButton(one)))
  const outer = button && closest(button, 'form')
  const form = ownForm ?? (outer && /(^| )askbox( |$)/.test(attribute(outer, 'class') ?? '') ? outer : undefined)
  const inside = form ?? button ?? ours[0]!
  const around = cardAround(inside) ?? form ?? (button && closest(button, 'div')) ?? inside
  const inner = elementsBelow(around)
  const number = Number(
    attribute(inner.find((element) => attribute(element, 'name') === 'askbox-version') ?? around, 'value') ?? NaN,
  )
  const version = expected.versions.find((one) => one.number === number) ?? expected.versions.at(-1)!
  const designed = elementsBelow(parseFragment(codeFor(expected, version)))
  const lines = linesOf(around)
  const problems: InstallFinding[] = []
  const tell = (message: string, mend = 'Paste the code anew in its place.') =>
    problems.push({ code: 'changed', weight: 'damage', message, mend, lines })
  const names = (elements: readonly Html.Element[]) =>
    new Map(
      elements.flatMap((element) =>
        attribute(element, 'name') === null ? [] : [[attribute(element, 'name')!, element]],
      ),
    )
  const [here, there] = [names(inner), names(designed)]
  for (const [name, control] of there) {
    const standing = here.get(name)
    if (standing === undefined)
      tell(
        name === 'askbox-version'
          ? 'The hidden field with the version is missing: answers are checked by the newest version.'
          : name === honeypotName(version.form as FormId)
            ? 'The hidden trap for bots is missing.'
            : `The field “${name}” is missing.`,
      )
    else if (typeOf(standing) !== typeOf(control) && !(typeOf(control) === 'email' && typeOf(standing) === 'text'))
      tell(`The field “${name}” is of another kind than it was made.`)
    else if (
      attribute(control, 'type') === 'hidden' &&
      name !== 'askbox-version' &&
      attribute(standing, 'value') !== attribute(control, 'value')
    )
      tell(`The hidden field “${name}” has another value.`)
  }
  for (const name of here.keys())
    if (!there.has(name)) tell(`A field “${name}” stands there that the form does not have: its answers are not kept.`)
  const address = `${receiver}/join/${spot.id}`
  const action = form && attribute(form, 'action')
  const isByButton = action === null && button !== undefined && attribute(button, 'formaction') === address
  if (form !== undefined && action !== address && !isByButton) tell('The form sends to another address.')
  const method = (button && attribute(button, 'formmethod')) ?? (form && attribute(form, 'method')) ?? ''
  if (form !== undefined && method.toLowerCase() !== 'post') tell('The form is not sent by post.')
  if (button === undefined) tell('The button is missing, or leads elsewhere.')
  const sheet = (elements: readonly Html.Element[]) =>
    elements
      .filter(({ tagName }) => tagName === 'style')
      .map(textIn)
      .join('')
  const [styles, published] = [sheet(inner), sheet(designed)]
  if (published !== '' && styles.trim() === '') tell('Its style sheet is missing.', damage['no-style-sheets'][1])
  const edits = [
    blanked(styles) !== blanked(published) ? 'its styles' : styles !== published ? 'colours' : null,
    squeezed(textIn(around).replace(styles, '')) ===
    squeezed(designed[0] ? textIn(designed[0]).replace(published, '') : '')
      ? null
      : 'words',
  ].filter((one) => one !== null)
  return {
    state: problems.length > 0 ? 'damaged' : 'edited',
    version: version.number,
    edits: problems.length > 0 ? [] : edits.length > 0 ? edits : ['attributes'],
    findings: [...problems, ...olderFinding(version.number, latest, ours)],
  }
}

/** The element around a form that wears its look; null where its class is gone. */
function cardAround(element: Html.Element): Html.Element | null {
  return ancestorsOf(element).find((one) => /(^| )askbox-card( |$)/.test(attribute(one, 'class') ?? '')) ?? null
}

/** A style sheet without the values that are made to be changed by hand. */
function blanked(css: string): string {
  return squeezed(css).replace(/(--askbox-[\w-]+):[^;}]*/g, '$1')
}

function textIn(node: Html.ParentNode): string {
  return node.childNodes
    .map((child) => ('value' in child ? child.value : 'childNodes' in child ? textIn(child) : ''))
    .join(' ')
}

function lineFindings(
  page: PageToCheck,
  elements: readonly Html.Element[],
  { spot, code, receiver }: ExpectedCode,
): InstallFinding[] {
  const address = `${receiver}/askbox.js`
  const scripts = elements.filter(
    (element) => element.tagName === 'script' && scriptAddress(element, page.address) === address,
  )
  const shared = scripts.filter((script) => !attribute(script, 'src')!.includes('#'))
  const isByScript = elements.some(
    (element) =>
      element.tagName === 'script' &&
      attribute(element, 'src') === null &&
      textIn(element).replaceAll('\\/', '/').includes(address),
  )
  const manager = elements.find(
    (element) => element.tagName === 'script' && MANAGES_TAGS.test(attribute(element, 'src') ?? ''),
  )
  if (code === 'script' && spot.kind !== 'pop-up' && scripts.length === 0 && isByScript) return []
  if (code === 'script' && spot.kind !== 'pop-up' && scripts.length === 0 && manager !== undefined)
    return [
      {
        code: 'line-unseen',
        weight: 'hint',
        message:
          'The shared line is not in the page’s source. What manages the site’s tags may bring it in; only a browser sees that.',
        mend: 'Rehearse the spot: with a browser at the receiver it tells. Or paste the shared line into the head of the site.',
        lines: linesOf(manager),
      },
    ]
  if (code === 'script' && spot.kind !== 'pop-up' && scripts.length === 0)
    return [
      {
        code: 'line-missing',
        weight: 'damage',
        message: 'The shared line is missing: visitors see a link in the place of the form.',
        mend: 'Paste the shared line into the head of the site, once.',
        lines: null,
      },
    ]
  const reasons = scripts.map(inertBecause)
  if (code === 'script' && scripts.length > 0 && reasons.every((reason) => reason !== null))
    return [
      {
        code: 'line-inert',
        weight: 'damage',
        message: `The line is there, but browsers do not run it: ${reasons[0]!}.`,
        mend: 'Let the site leave this line as it is: exempt it from what optimizes scripts or waits for consent, or choose the form itself, a frame or a link.',
        lines: linesOf(scripts[0]!),
      },
    ]
  if (shared.length > 1)
    return [
      {
        code: 'line-twice',
        weight: 'hint',
        message: `The shared line stands there ${shared.length === 2 ? 'twice' : `${shared.length} times`}.`,
        mend: 'It does no harm. One is enough.',
        lines: linesOf(shared[1]!),
      },
    ]
  return []
}

/** How scripts are called that bring in others by rules made elsewhere; common practice, no published source. */
const MANAGES_TAGS = /(?:^|[/._-])(?:gtm|u?tags?|tag-?manager|container)(?:[/._-]|$)/i

/** Where a script is fetched from, without what a site adds to it (`?ver=`), from whatever page. */
function scriptAddress(script: Html.Element, page: string | null, withHash = false): string | null {
  const src = attribute(script, 'src')
  const address = src === null ? null : resolvedOn(src, page)
  const at = withHash ? (src ?? '').indexOf('#') : -1
  const hash = at < 0 ? '' : src!.slice(at)
  return address === null ? null : `${address.origin}${address.pathname}${hash}`
}

/** JavaScript MIME types, WHATWG MIME Sniffing, section 4.6. */
const SCRIPT_TYPES =
  /^(?:(?:application|text)\/(?:x-)?(?:java|ecma)script|text\/(?:javascript1\.[0-5]|jscript|livescript))$/

/** Why a browser does not run a script as ours has to be run; null where it does. HTML, section 4.12.1.1. */
function inertBecause(script: Html.Element): string | null {
  const type = (attribute(script, 'type') ?? '').trim().toLowerCase()
  if (type === 'module') return 'as a module (type="module") it does not know where it came from'
  if (type !== '' && !SCRIPT_TYPES.test(type)) return `its type is “${type}”, which is none of a script`
  if (attribute(script, 'nomodule') !== null) return 'it is for browsers of long ago alone (nomodule)'
  if (attribute(script, 'integrity') !== null) return 'it is held against a fixed copy (integrity), and it changes'
  const within = ['template', 'noscript'].find((tag) => closest(script, tag) !== null)
  return within === undefined ? null : `it stands within <${within}>`
}

function policyFindings(
  { address, policies }: PageToCheck,
  elements: readonly Html.Element[],
  { spot, code, receiver }: ExpectedCode,
): InstallFinding[] {
  const inPage = elements.filter(
    (element) =>
      element.tagName === 'meta' && attribute(element, 'http-equiv')?.toLowerCase() === 'content-security-policy',
  )
  const all = [...policies, ...inPage.map((element) => attribute(element, 'content') ?? '')]
  const needs: [directive: string, target: string, what: string, weight: InstallFinding['weight']][] = {
    plain: [
      ['form-action', `${receiver}/join/${spot.id}`, 'lets the form not be sent to the receiver', 'damage'] as const,
      ['style-src-elem', 'inline', 'switches the form’s styles off', 'damage'] as const,
    ],
    'in-tags': [
      ['form-action', `${receiver}/join/${spot.id}`, 'lets the form not be sent to the receiver', 'damage'] as const,
      ['style-src-attr', 'inline', 'switches the form’s styles off', 'damage'] as const,
    ],
    script: [
      ['script-src-elem', `${receiver}/askbox.js`, 'keeps the script from loading', 'damage'] as const,
      ...(spot.kind === 'pop-up'
        ? [['script-src-elem', `${receiver}/pop-up.js`, 'keeps the pop-up from loading', 'damage'] as const]
        : []),
      ['connect-src', `${receiver}/form/${spot.id}.json`, 'keeps the script from fetching the form', 'damage'] as const,
    ],
    frame: [['frame-src', frameAddress(receiver, spot.id), 'keeps the frame from loading', 'damage'] as const],
    link: [],
    file: [],
  }[code].map((need) => [...need])
  return needs.flatMap(([directive, target, what, weight]) => {
    const by = forbiddenBy(all, directive, target, address)
    return by === null
      ? []
      : [
          {
            code: 'policy' as const,
            weight,
            message: `The page’s policy (${by}) ${what}.`,
            mend:
              target === 'inline'
                ? 'Choose a script or a frame, or let the site’s policy permit styles in the page.'
                : `Add ${receiver} to ${by} in the site’s policy, or choose a link to its page.`,
            lines: inPage[0] ? linesOf(inPage[0]) : null,
          },
        ]
  })
}

function linesOf({ sourceCodeLocation }: Html.Element, onlyStart = false): [number, number] | null {
  if (!sourceCodeLocation) return null
  const { startLine, endLine, startTag } = sourceCodeLocation
  return [startLine, onlyStart ? (startTag?.endLine ?? startLine) : endLine]
}

function lineAround(html: string, text: string): [number, number] {
  const at = html.indexOf(text)
  const line = html.slice(0, Math.max(0, at)).split('\n').length
  return [line, line]
}
