import { type Failure, failure, personFor } from '#core/proof'
import { fillsOf } from '#core/usable'
import { answered, member } from './joining'
import { framingProblem } from './framing'
import { byHand, NEEDS_BROWSER, notDone } from './sign-up'
import { type CaseSteps, judged, notTried, pictured } from './step'
import { isBroughtByScript } from '#core/spot'
import { addressOf, DESK_WIDTH, type CaseContext } from './way'

/** CSS pixels: a common phone. */
const PHONE_WIDTH = 360

export const scriptsOff = (way: CaseContext): CaseSteps => inBrowser(way, 'scriptsoff', DESK_WIDTH, false)
export const phone = (way: CaseContext): CaseSteps => inBrowser(way, 'phone', PHONE_WIDTH, true)

/** A real browser shows the page at a width, without scripts, or with them where the code is a script. */
async function* inBrowser(way: CaseContext, who: string, width: number, isPhone: boolean): CaseSteps {
  const { browser } = way.ports
  const what = isPhone ? `At phone size, ${width} pixels wide` : 'With scripts off'
  if (browser === null) return yield notTried('form', what, NEEDS_BROWSER)
  // Made-up people are spared the puzzle, so what they come to says nothing of visitors.
  if (!isPhone && way.content.guard?.puzzle)
    return yield notTried('form', what, 'The form’s guard asks for a puzzle: without scripts nobody can sign up.')
  const { standing, subject } = way
  const email = addressOf(way, who)
  const answers = personFor(way.content, email)
  const fills = fillsOf(way.content, answers)
  if (browser.kind === 'visits') {
    if (!isPhone && standing.through === 'script' && isBroughtByScript(subject.spot))
      return yield notTried('form', what, subject.spot.kind === 'pop-up' ? NO_POP_UP : NO_RULE)
    const { visited, ...tried } = await byHand({ way, viewer: isPhone ? 'phone' : 'no-scripts', fills, presses: 1 })
    // A page that needs scripts for its own parts is no fault of the form's.
    if (!isPhone && 'met' in tried && tried.met.station === 'spot')
      return yield notTried('form', what, `Without scripts, this page shows no form. ${tried.reason}`)
    if (!tried.isTried) return yield notDone('form', what, tried)
    const { width = 0, sticksOut = false, remarks = [] } = visited ?? {}
    const seen = [`Seen, filled in and sent by a browser; the form is ${Math.round(width)} pixels wide.`, ...remarks]
    yield pictured(judged('form', what, fits({ isThere: true, sticksOut }), seen.join(' ')), tried.look ?? null)
    yield answered(way, what, { expects: way.outcome.joins, tried, answers })
  } else if (isPhone && standing.through === 'script') {
    const forbidden = framingProblem(standing.sitePage, browser.origin)
    if (forbidden !== null) return yield notTried('form', what, forbidden)
    const seen = await browser.withScripts({
      address: standing.sitePage.address,
      spot: subject.spot.id,
      width,
      fills,
      presses: 1,
    })
    if (!seen.isTried) return yield notTried('form', what, seen.reason)
    yield judged('form', what, fits(seen), `The form is ${Math.round(seen.width)} pixels wide.`)
    if (seen.shown !== null)
      yield answered(way, what, {
        expects: way.outcome.joins,
        tried: { isTried: true, shown: seen.shown, remarks: [], evidence: [] },
        answers,
      })
  } else {
    // Without scripts, script code is a link to the landing page.
    const address = standing.through === 'markup' ? standing.fetched.address : standing.link
    if (address === null) return yield notTried('form', what, subject.spot.kind === 'pop-up' ? NO_POP_UP : NO_RULE)
    const action = `${subject.receiver}/join/${subject.spot.id}`
    const seen = await browser.withoutScripts({ address, action, width, fills })
    if (!seen.isTried) return yield notTried('form', what, seen.reason)
    yield judged(
      'form',
      what,
      fits({ ...seen, isThere: seen.isThere && seen.isSeen }),
      'Seen, filled in and sent by this browser.',
    )
  }
  yield await member(way, what, answers, email)
}

const NO_RULE = 'A rule is carried out by the script: without scripts no form is put there.'
export const NO_POP_UP = 'A pop-up is all script: without scripts nothing appears.'

function fits(seen: { isThere: boolean; sticksOut: boolean }): Failure | null {
  if (!seen.isThere)
    return failure('hidden', 'page', {
      expected: 'Visitors see the form.',
      happened: 'This browser shows none.',
      cause: 'A style of the site hides the form or what is around it.',
      mend: 'Take that style away, or put the code where nothing hides it.',
    })
  return seen.sticksOut
    ? failure('too-wide', 'page', {
        expected: 'The form is as wide as its place.',
        happened: 'It sticks out of the page.',
        cause: 'The place on the page is narrower than the form, or holds it at a width of its own.',
        mend: 'Put the code into a wider place, or choose another look.',
      })
    : null
}
