import { parse } from 'parse5'
import { contrastFindings, nothingMeasured } from '#core/checkup'
import type { FormContent } from '#core/form'
import { namedWords, spotNamed } from '#core/install'
import { evidence, type Failure, failure, type ProofLook, type Shown, type Step, type ViewerId } from '#core/proof'
import type { Spot } from '#core/spot'
import type { Obstacle, Visited } from './ports'
import { shownOnVisit, wordsIn } from './shown'

/** What the causes of an obstacle are looked for in: the form that was to be met, and whose page it was on. */
export interface FormMet {
  spot: Spot
  content: FormContent
  /** Names of the owner's spots, by id. */
  others: ReadonlyMap<string, string>
}

/** What a visitor's hand met, as a station's step: what kept it from signing up, or null. */
export function obstacleMet(seen: Visited, form: FormMet): { station: Step['station']; failure: Failure } | null {
  if (!seen.isThere) return { station: 'spot', failure: asksForAnother(seen, form) ?? notThere(seen, form) }
  return seen.obstacle === null ? null : inTheWay(seen.obstacle, seen, form)
}

/** A page that asked the receiver for a spot that does not exist, or for another's; null for none. */
function asksForAnother({ asked = [], html }: Visited, { spot, others }: FormMet): Failure | null {
  const one = asked.find(({ status }) => status === 404) ?? asked.find((each) => others.has(each.spot))
  if (one === undefined) return null
  const named = spotNamed(one.spot, { spot, others })
  const words = namedWords(named, spot.id)
  const meant = named.name === null ? named.meant?.id : named.id
  return {
    ...failure(
      named.name === null ? 'unknown-spot' : 'other-spot',
      'page',
      { expected: 'The page asks for this spot’s form.', ...words },
      evidence('response', `${one.spot}: ${one.status}`),
      ...(html === null ? [] : [evidence('markup', html)]),
    ),
    ...(meant !== undefined && { spot: meant as Failure['spot'] }),
  }
}

/**
 * Why nothing can be said of a page that shows our browser something else than visitors: it answers it with a refusal, or
 * asks it to prove that it is a person; null where it does neither.
 */
export function refusalOf({ isThere, status, html }: Visited): string | null {
  if (isThere) return null
  if (REFUSING.has(status)) return refuses(`it answers it ${status}, and others not`)
  const text = wordsIn(parse(html ?? ''))
  const asked = text.length < LONGEST_CHALLENGE ? CHALLENGE.exec(text) : null
  return asked === null ? null : refuses(`it says “${asked[0]}”`)
}

export function refuses(how: string): string {
  return `This page refuses our browser: ${how}. Try it by hand.`
}

/** RFC 9110, section 15.5, and RFC 6585, section 4: refused, too many, or not now. */
const REFUSING = new Set([401, 403, 405, 406, 418, 429, 503])
/** What such pages say; common practice. */
const CHALLENGE =
  /captcha|(?:are|you(?:’|')re|you are) (?:not )?(?:a )?(?:human|robot)|checking your browser|unusual traffic|automated (?:access|browser|request|traffic)\w*|bot (?:detected|protection)|access denied|headless/i
/** Such a page says little else. */
const LONGEST_CHALLENGE = 3_000

/** What a visitor saw, as a proof keeps it; null where there is no picture. */
export function lookOf({ picture, field }: Visited, viewer: ViewerId): ProofLook | null {
  return picture === null || picture.length > 60_000 ? null : { viewer, jpeg: picture, field }
}

/** What it read at last; null where nothing was sent. */
export function shownTo(seen: Visited, address: string): Shown | null {
  const { answer, inPlace } = seen
  if (answer !== null) return shownOnVisit(answer)
  return inPlace === null ? null : { status: 0, address, kept: {}, ...inPlace }
}

const STATIONS: Record<Obstacle['code'], Step['station']> = {
  hidden: 'spot',
  faint: 'spot',
  'page-left': 'spot',
  covered: 'spot',
  'trap-visible': 'form',
  'field-missing': 'form',
  'field-locked': 'form',
  'no-button': 'form',
  'button-disabled': 'form',
  'submit-stopped': 'form',
  'foreign-required': 'form',
  'sent-elsewhere': 'form',
  'send-blocked': 'form',
  'answer-unseen': 'answer',
  'answer-missing': 'answer',
  trouble: 'form',
}

function notThere({ status, complaints, html, ledTo }: Visited, { spot }: FormMet): Failure {
  if (spot.kind === 'landing')
    return failure(
      'form-unseen',
      'settings',
      {
        expected: 'The page holds its form.',
        happened: `A browser opened it (status ${status}) and found none.`,
        ...BETWEEN,
      },
      ...(html === null ? [] : [evidence('markup', html)]),
    )
  if (ledTo !== undefined)
    return failure('page-left', 'page', {
      expected: 'The page stays where it is.',
      happened: `It led on by itself to ${ledTo.startsWith('chrome-error:') ? 'an address that does not answer' : ledTo}, and there is no form of this spot.`,
      cause: 'A script of the site, or a line in its head, sends some of its visitors elsewhere.',
      mend: 'Take that away for this page, or put the code on the page that they come to as well.',
    })
  const policy = complaints.find((text) => /Content Security Policy|X-Frame-Options|frame-ancestors/i.test(text))
  const isKeptOut = complaints.some((text) => /ERR_BLOCKED_BY_RESPONSE|embedder.?policy/i.test(text))
  return failure(
    'form-unseen',
    'page',
    {
      expected: 'Visitors find the form on the page.',
      happened: `A browser opened the page (status ${status}) and found no form of this spot on it.`,
      cause:
        policy !== undefined
          ? `The page’s rules forbid it: ${policy}`
          : isKeptOut
            ? 'The page lets in only what says that it may be used there (Cross-Origin-Embedder-Policy), and something between takes that word away.'
            : 'It was taken away by a script of the page, or what should load it was kept from it.',
      mend: 'Open the page yourself, and look at what stands in the form’s place. Where a script takes the form away, use a frame, which most of them leave alone.',
    },
    ...(complaints.length > 0 ? [evidence('response', complaints.join('\n'))] : []),
    ...(html === null ? [] : [evidence('markup', html)]),
  )
}

function inTheWay(
  { code, detail, markup }: Obstacle,
  { complaints }: Visited,
  form: FormMet,
): { station: Step['station']; failure: Failure } {
  const shown = [
    ...(markup === '' ? [] : [evidence('markup', markup)]),
    ...(complaints.length === 0 ? [] : [evidence('response', complaints.join('\n'))]),
  ]
  const words = WORDS[code](detail)
  const own = ownCause(code, form)
  if (own !== null) {
    const { at, ...cause } = own
    return {
      station: at === 'form' ? 'form' : STATIONS[code],
      failure: failure(code, at, { ...words, ...cause }, ...shown),
    }
  }
  const at = code === 'answer-missing' ? 'settings' : 'page'
  return { station: STATIONS[code], failure: failure(code, at, words, ...shown) }
}

/** The cause that lies with what the owner made, or before the receiver, and with no site; null where a site may be it. */
function ownCause(
  code: Obstacle['code'],
  form: FormMet,
): { at: 'form' | 'settings'; cause: string; mend: string } | null {
  const isOurs = form.spot.kind === 'landing'
  if (code === 'faint') {
    const { look } = form.content
    // Our own pages have the form's background; what a see-through form stands on elsewhere is the site's.
    const isJudged = isOurs || look.ground.kind !== 'none'
    const [unreadable] = isJudged ? contrastFindings(form.content, [look.colours.background], nothingMeasured) : []
    if (unreadable !== undefined)
      return {
        at: 'form',
        cause: `The form’s own colours, in its Look. ${unreadable.message}`,
        mend: unreadable.mend === undefined ? LOOK_MEND : `${unreadable.mend.name}, publish, and rehearse again.`,
      }
  }
  if (!isOurs) return null
  return OF_LOOK.has(code) ? { at: 'form', cause: LOOK_CAUSE, mend: LOOK_MEND } : { at: 'settings', ...BETWEEN }
}

/** On a page of ours, what is drawn is drawn by the form's own look and CSS. */
const OF_LOOK = new Set<Obstacle['code']>(['hidden', 'faint', 'covered', 'trap-visible'])
const LOOK_CAUSE = 'The form’s own Look or its own CSS: nothing else draws this page.'
const LOOK_MEND = 'Change it in the form’s Look, publish, and rehearse again.'
/** A page of ours has no scripts or styles of others. */
const BETWEEN = {
  cause:
    'Nothing of others stands on this page. Something between the receiver and the browser changes it, or the receiver is slow.',
  mend: 'Look whether a proxy before the receiver rewrites its pages (optimizing, minifying, injecting), and let it leave them as they are.',
}

type Words = { expected: string; happened: string; cause: string; mend: string }

const WORDS: Record<Obstacle['code'], (detail: string) => Words> = {
  hidden: (detail) => ({
    expected: 'Visitors see the form.',
    happened: `A browser shows it to nobody: ${detail}.`,
    cause: 'A style or a script of the site hides it, or what is around it.',
    mend: 'Take that away, or put the code where nothing hides it.',
  }),
  faint: (detail) => ({
    expected: 'Visitors see the form, and can read it.',
    happened: `On the screen, it is there and not to be seen. ${detail}.`,
    cause: 'A colour, a filter or a veil of the site lies on the form, or on what is around it.',
    mend: 'Take that away, or put the code where nothing lies on it.',
  }),
  'page-left': (detail) => ({
    expected: 'The page stays as it is while somebody fills in the form.',
    happened: `While it was being filled in, ${detail}.`,
    cause: 'A script of the site, or a line in its head, loads pages by itself.',
    mend: 'Look for what reloads the page or leads on from it (“refresh”), and take it away from this page.',
  }),
  covered: (detail) => ({
    expected: 'Visitors can reach every field and the button.',
    happened: `Something is in the way: ${detail}.`,
    cause: 'Another part of the page lies over the form, or takes the presses meant for it.',
    mend: 'Move that part, give it a lower z-index, or put the code somewhere else.',
  }),
  'trap-visible': () => ({
    expected: 'Nobody sees the field that only bots fill in.',
    happened: 'It can be seen: people fill it in, and are taken for bots.',
    cause: 'The site’s styles show what the code hides, or took what hides it away.',
    mend: 'Use a frame, which the site’s styles and scripts do not reach.',
  }),
  'field-missing': (detail) => ({
    expected: 'A control for every question of the published form.',
    happened: `There is none named “${detail}”.`,
    cause: 'Something between the receiver and the visitor takes fields out, or renames them.',
    mend: 'Use a frame, which the page’s scripts and editors do not reach, or a link.',
  }),
  'field-locked': (detail) => ({
    expected: 'Every question can be answered as it was published.',
    happened: `${detail}.`,
    cause: 'The field was changed on the page, or a script of the page changes what is typed.',
    mend: 'Use a frame, which the page’s scripts do not reach, or except this form from the script that does it.',
  }),
  'no-button': (detail) => ({
    expected: 'A button that sends the form.',
    happened: detail === '' ? 'There is none.' : `There is none: ${detail}.`,
    cause: 'The button’s type was changed, or the button was taken out.',
    mend: 'Use a frame, which the page’s scripts do not reach, or give the button the type “submit”.',
  }),
  'button-disabled': () => ({
    expected: 'A button that can be pressed.',
    happened: 'It is switched off.',
    cause: 'Something on the page switches the button, or the fields around it, off.',
    mend: 'Use a frame, which the page’s scripts do not reach, or take “disabled” away from it.',
  }),
  'submit-stopped': (detail) => ({
    expected: 'Pressing the button sends the form.',
    happened: `Nothing was sent: ${detail}.`,
    cause: 'A script of the page, or a handler in the code, keeps forms from being sent as they are.',
    mend: 'Except this form from that script, or choose a frame, which the page’s scripts do not reach.',
  }),
  'foreign-required': (detail) => ({
    expected: 'Only this form’s own questions have to be answered.',
    happened: `The browser sends nothing, because of ${detail}`,
    cause: 'The code stands within another form, or rules were added to its fields.',
    mend: 'Put the code outside of that form, or use a frame or a link.',
  }),
  'sent-elsewhere': (detail) => ({
    expected: 'The form sends to the receiver.',
    happened: `It sent to somewhere else, and ${detail} opened.`,
    cause: 'A script of the page, or the form around the code, sends it to another address.',
    mend: 'Put the code outside of other forms, or use a frame or a link.',
  }),
  'send-blocked': (detail) => ({
    expected: 'What the form sends reaches the receiver.',
    happened: `The browser did not send it: ${detail}.`,
    cause: 'The site’s content policy, or something between the visitor and the receiver, keeps it back.',
    mend: 'Let the site’s policy allow the receiver’s address (form-action, connect-src), or use a link.',
  }),
  'answer-unseen': (detail) => ({
    expected: 'Visitors see the answer.',
    happened: `It goes into a frame that nobody sees: ${detail}.`,
    cause: 'The form’s target is a hidden frame, as code for sending without leaving the page has it.',
    mend: 'Take “target” away from the form, or use a frame, which the page’s scripts do not reach.',
  }),
  'answer-missing': (detail) => ({
    expected: 'An answer comes after the press.',
    happened: `None came within twelve seconds.${detail === '' ? '' : ` The browser says: ${detail}`}`,
    cause: 'The receiver is slow or cannot be reached from the page, or the page keeps its answer back.',
    mend: 'Look whether the receiver can be reached, and at the messages of the browser’s console.',
  }),
  trouble: (detail) => ({
    expected: 'A hand can use the form.',
    happened: `It could not: ${detail}`,
    cause: 'The page moves, changes or takes away what is to be pressed.',
    mend: 'Open the page yourself and try it; the answer tells what the page does.',
  }),
}
