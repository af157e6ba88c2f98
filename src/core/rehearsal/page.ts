import { parse, type DefaultTreeAdapterTypes as Html } from 'parse5'
import { codeNames, codeOf, fileAddress, frameAddress, pageAddress } from '#core/embed'
import { inTagsCode } from '#core/inlining'
import { checkInstall, type InstallFinding } from '#core/install'
import { failure, type Failure, isSamePage, type Step } from '#core/proof'
import { addressProblem, sitePath } from '#core/site'
import type { CodeKind } from '#core/spot'
import { attribute, elementsBelow, type FormOnPage } from '#core/submission'
import { visibilityOn } from '#core/usable'
import { fetchLooking, isPrivate, unsteadyAt } from './fetching'
import { formIn, hidden, markupOf, pageUnknown } from './form-on-page'
import { frameForbidden, framingProblem, originOf } from './framing'
import { garbledWords } from './garbled'
import { causeWords, damageOn, olderCopy } from './page-damage'
import type { FetchedPage, Ports } from './ports'
import { linkedSheets } from './sheets'
import type { RehearsalSubject } from './subject'

/** A form that somebody can fill in: in markup, or through the visitors' script. */
export type PageStanding =
  | { through: 'markup'; page: Html.Document; fetched: FetchedPage; form: FormOnPage; sitePage: FetchedPage }
  | { through: 'script'; sitePage: FetchedPage; link: string | null }

export interface PageLook {
  steps: Omit<Step, 'ms'>[]
  standing: PageStanding | null
  /** What looks wrong in markup, and is for a browser to see where there is one. */
  doubts: Omit<Step, 'ms'>[]
}

export function kindOfCode({ spot, site }: RehearsalSubject): CodeKind | 'page' {
  return spot.kind === 'landing' ? 'page' : codeOf(spot, site)
}

/** What a look at a page finds, in the order in which it is found. */
function openLog() {
  const steps: Omit<Step, 'ms'>[] = []
  const doubts: Omit<Step, 'ms'>[] = []
  const end = (standing: PageStanding | null = null): PageLook => ({ steps, standing, doubts })
  return {
    steps,
    end,
    doubt(station: Step['station'], what: string, problem: Failure): void {
      doubts.push({ case: 'page', station, what, verdict: 'failed', seen: problem.happened, failure: problem })
    },
    /** Nothing further is looked at. */
    fail(station: Step['station'], what: string, problem: Failure): PageLook {
      steps.push({ case: 'page', station, what, verdict: 'failed', seen: problem.happened, failure: problem })
      return end()
    },
    pass(station: Step['station'], what: string, seen: string): void {
      steps.push({ case: 'page', station, what, verdict: 'passed', seen })
    },
  }
}
type Log = ReturnType<typeof openLog>

/** A page in hand: as it was fetched, and what of the subject it is held against. */
interface PageInHand {
  subject: RehearsalSubject
  ports: Ports
  log: Log
  latest: RehearsalSubject['versions'][number]
  looked: FetchedPage
  /** The address that it led on to; null for the one that was asked for. */
  ledTo: string | null
}

/** The page as it stands: fetched, the code on it named, the form in it found. Ends at the first step that fails. */
export async function lookAtPage(subject: RehearsalSubject, ports: Ports): Promise<PageLook> {
  const { spot, site, versions, receiver } = subject
  const latest = versions.at(-1)
  const log = openLog()
  if (latest === undefined)
    return log.fail(
      'spot',
      'The form is published',
      failure('not-published', 'form', {
        expected: 'A version of the form is published.',
        happened: 'None is: there is no code to paste yet.',
        cause: 'The form was never published.',
        mend: 'Publish it, paste its code, and rehearse again.',
      }),
    )
  if (spot.state !== 'live')
    return log.fail(
      'spot',
      'The spot is live',
      failure(`spot-${spot.state}`, 'spot', {
        expected: 'The spot is live.',
        happened: `It is ${spot.state}: visitors who send its form read that it is closed.`,
        cause: `The spot was ${spot.state} here or in another browser, and its code may still stand on the page.`,
        mend: 'Make it live again, or take its code from the page.',
      }),
    )

  const code = kindOfCode(subject)
  const ownAddress = pageAddress(receiver, spot.slug ?? spot.id)
  const address =
    code === 'page'
      ? ownAddress
      : [spot.page, ...(code === 'rule' ? (subject.morePages ?? []) : []), site?.address ?? ''].find(
          (one) => addressProblem(one) === null,
        )
  if (address === undefined) return log.fail('spot', 'The page is known', pageUnknown())

  const begun = ports.now()
  const looked = await fetchLooking(address, ports)
  if ('code' in looked) return log.fail('spot', 'The page can be reached', looked)
  const seconds = (ports.now() - begun) / 1_000
  if (seconds > SLOW_SECONDS)
    log.pass(
      'spot',
      'The page can be reached',
      `It took ${seconds.toFixed(1)} seconds: many visitors will not wait for it.`,
    )
  const unsteady = code === 'page' || code === 'rule' ? null : await unsteadyAt(address, looked.html, spot.id, ports)
  if (unsteady !== null) return log.fail('spot', 'The page can be reached', unsteady)
  const ledTo = isSamePage(address, looked.address) ? null : looked.address
  const inHand: PageInHand = { subject, ports, log, latest, looked, ledTo }
  if (code === 'page') log.pass('spot', 'The page can be reached', `${looked.address} answers.`)
  else {
    const ended = codeOnPage(inHand, code)
    if (ended !== null) return ended
  }
  return formOnPage(inHand, code, ownAddress)
}

/** The code on the page, named; null where it can be looked into further. */
function codeOnPage(inHand: PageInHand, code: CodeKind): PageLook | null {
  const { subject, log, latest, looked } = inHand
  const { spot, site, versions, receiver } = subject
  const report = checkInstall(
    { html: looked.html, address: looked.address, policies: looked.policies },
    {
      ...{ spot, code, receiver, versions, others: subject.others, inTags: inTagsCode },
      under: sitePath(site?.address ?? ''),
    },
  )
  const what = 'The code on the page'
  const all = report.findings.filter(({ weight }) => weight === 'damage')
  for (const { code, message, mend } of all)
    if (FOR_BROWSERS.has(code)) {
      const words = { expected: 'Visitors can use it.', happened: message, cause: causeWords(code), mend }
      log.doubt('spot', what, failure(code, 'page', words))
    }
  // Whether it can be used is looked at below, and by a browser where there is one.
  const damage = all.filter((finding) => !ABOUT_USE.has(finding.code))
  const byScript = { through: 'script', sitePage: looked, link: null } as const
  const [first] = damage
  if (first !== undefined) {
    if (report.state === 'absent' && /type=["']?password/i.test(looked.html))
      return log.fail('spot', 'The page can be reached', isPrivate(looked))
    const tell = BY_SCRIPTS.has(first.code) ? log.doubt : log.fail
    return tell('spot', what, damageOn(inHand, site, code, damage)) ?? log.end(byScript)
  }
  const material = report.findings.find((finding) => finding.code === 'by-script')
  if (material !== undefined) {
    log.doubt('spot', what, madeByScript(material))
    return log.end(byScript)
  }
  const isPasted = code === 'plain' || code === 'in-tags'
  const garbled = isPasted ? garbledWords(looked.html, latest.content, looked.encoding) : null
  if (garbled !== null) return log.fail('spot', 'The words can be read', garbled)
  log.pass('spot', what, standingWords(inHand, code, report))
  return null
}

function madeByScript({ message, mend }: InstallFinding): Failure {
  return failure('absent', 'page', {
    expected: 'The form’s code stands there.',
    happened: message,
    cause: 'A script of the page makes the form of it, or something keeps it from that.',
    mend,
  })
}

/** That the code stands there, and what else is worth knowing of it. */
function standingWords(
  { subject, looked: { html }, ledTo }: PageInHand,
  code: CodeKind,
  { version, state, edits, findings }: ReturnType<typeof checkInstall>,
): string {
  const closed = [...(subject.closed ?? [])].filter(([id]) =>
    ['/join/', '/page/', '/frame/', '/askbox.js#pop-up-'].some((path) =>
      new RegExp(`${path.replace('.', '\\.')}${id}(?![a-z0-9])`).test(html),
    ),
  )
  return [
    `${codeNames[code]}${version === null ? '' : ` of version ${version}`} stands there${state === 'edited' ? `, changed by hand (${edits.join(', ')})` : ', whole'}.`,
    ...(ledTo === null ? [] : [`The address leads on to ${ledTo}.`]),
    ...findings.map(({ message }) => message),
    ...popUpHints(subject, html),
    ...closed.map(([, name]) => `Code of a spot that is closed stands there as well, and tells visitors so: ${name}.`),
  ].join(' ')
}

/** The form itself, wherever the code leads. */
async function formOnPage(
  { subject, ports, log, latest, looked }: PageInHand,
  code: CodeKind | 'page',
  ownAddress: string,
): Promise<PageLook> {
  const { spot, receiver } = subject
  const { html } = looked
  const sitePage = parse(html)
  const sheets = await linkedSheets(sitePage, looked.address, ports)
  // A browser, where there is one, sees for itself.
  if (sheets.unread.length > 0 && ports.browser === null)
    log.steps.push({
      case: 'page',
      station: 'spot',
      what: 'The form can be seen',
      verdict: 'not-tried',
      seen: `A style sheet of the site could not be read, so what it hides is not known: ${sheets.unread[0]}`,
    })

  if (code === 'rule') return log.end({ through: 'script', sitePage: looked, link: null })
  if (code === 'script') {
    const page = sitePage
    const link = elementsBelow(page).find((one) => attribute(one, 'href')?.startsWith(pageAddress(receiver, spot.id)))
    if (link !== undefined) {
      const by = visibilityOn(page, sheets.texts).hiddenBy(link, { isReset: true })
      if (by !== null) log.doubt('spot', 'The form can be seen', hidden(by, markupOf(link)))
    }
    return log.end({
      through: 'script',
      sitePage: looked,
      link: link === undefined ? null : (attribute(link, 'href') ?? null),
    })
  }
  // Through the frame or the link to where the form itself is.
  let formPage = looked
  if (code === 'frame' || code === 'link') {
    const page = sitePage
    const piece = elementsBelow(page).find((one) =>
      code === 'frame'
        ? one.tagName === 'iframe' && attribute(one, 'src') === frameAddress(receiver, spot.id)
        : attribute(one, 'href')?.startsWith(`${receiver}/page/`),
    )
    const by = piece === undefined ? null : visibilityOn(page, sheets.texts).hiddenBy(piece)
    if (by !== null) log.doubt('spot', 'The form can be seen', hidden(by, markupOf(piece!)))
    const target =
      code === 'frame' ? frameAddress(receiver, spot.id) : (piece && attribute(piece, 'href')) || ownAddress
    const inner = await fetchLooking(target, ports)
    if ('code' in inner) return log.fail('form', 'The form loads', inner)
    const forbidden = code === 'frame' ? framingProblem(inner, originOf(looked.address)) : null
    if (forbidden !== null) return log.fail('form', 'The form loads', frameForbidden(inner, forbidden))
    formPage = inner
  }
  // Within a frame or on a page of ours, the site's sheets do not reach the form.
  const inMarkup = formIn(formPage, latest, subject, formPage === looked ? sheets.texts : [])
  if ('failure' in inMarkup) return log.fail(inMarkup.station, inMarkup.what, inMarkup.failure)
  for (const { station, what, failure } of inMarkup.doubts) log.doubt(station, what, failure)
  log.pass('form', 'The form is there', `${inMarkup.form.controls.length} controls; it sends to the receiver.`)
  const { page, form } = inMarkup
  const old = olderCopy(form, formPage, latest.number)
  if (old !== null && formPage.address.startsWith(receiver)) return log.fail('form', 'The newest version is shown', old)
  return log.end({ through: 'markup', page, form, fetched: formPage, sitePage: looked })
}

/**
 * A landing page as the file that its owner can save and put anywhere: whole, with the form in it, and in need of nothing
 * beside it.
 */
export async function lookAtFile(
  { spot, versions, receiver }: RehearsalSubject,
  ports: Ports,
): Promise<Extract<PageStanding, { through: 'markup' }> | Failure> {
  const fetched = await fetchLooking(fileAddress(receiver, spot.id), ports)
  if ('code' in fetched) return fetched
  const inMarkup = formIn(fetched, versions.at(-1)!, { spot, receiver })
  if ('failure' in inMarkup) return inMarkup.failure
  const [doubt] = inMarkup.doubts
  if (doubt !== undefined) return doubt.failure
  // An address without a scheme is looked for beside the file; a part of the page, or nothing, is in it.
  const beside = elementsBelow(inMarkup.page).find((element) =>
    ['src', 'href', 'action']
      .flatMap((name) => attribute(element, name) ?? [])
      .some((address) => !/^([a-z][a-z0-9+.-]*:|#|$)/i.test(address)),
  )
  if (beside !== undefined)
    return failure(
      'file-not-whole',
      'form',
      {
        expected: 'The file needs nothing beside it.',
        happened: 'It names something by an address that leads nowhere from a disk.',
        cause: 'The words or the look of the form lead to a page without its whole address.',
        mend: 'Write the whole address, publish, and save the file again.',
      },
      markupOf(beside),
    )
  const { page, form } = inMarkup
  return { through: 'markup', page, form, fetched, sitePage: fetched }
}

/** What keeps most visitors from meeting a pop-up that comes as it should. */
function popUpHints({ spot, others }: RehearsalSubject, html: string): string[] {
  if (spot.kind !== 'pop-up') return []
  const { when } = spot.popUp ?? {}
  const other = [...others].find(
    ([id]) => id !== spot.id && new RegExp(`/askbox\\.js#pop-up-${id}(?![a-z0-9])`).test(html),
  )
  return [
    ...(when?.kind === 'seconds' && when.seconds >= LATE_SECONDS
      ? [`By its own rule it comes after ${when.seconds} seconds: few visitors stay for so long.`]
      : []),
    ...(other === undefined
      ? []
      : [`Another pop-up stands there as well (${other[1]}): whoever meets one is spared the other for a minute.`]),
  ]
}
/** Common practice has 5 to 60. */
const LATE_SECONDS = 120

/** Longer than this, common practice says, many visitors leave. */
const SLOW_SECONDS = 5
/** What a page's own scripts may put there, as tag managers do. */
const BY_SCRIPTS = new Set<string>(['absent', 'line-missing', 'line-inert'])

/** What keeps a form from being used: found again in the form itself, and told there. */
const ABOUT_USE = new Set<string>([
  'hidden',
  'trap-visible',
  'no-button',
  'button-disabled',
  'submit-stopped',
  'sent-elsewhere',
  'within-link',
  'field-locked',
  'field-missing',
  'foreign-required',
  'answer-unseen',
  'sandboxed',
  'link-empty',
])
/** Of those, what nothing else finds. */
const FOR_BROWSERS = new Set<string>(['sandboxed', 'link-empty'])
