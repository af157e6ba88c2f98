import { createHash } from 'node:crypto'
import { type Context, Hono } from 'hono'
import { cors } from 'hono/cors'
import { meantAddress } from '#core/email'
import {
  type AnswerCase,
  answerTo,
  closedWords,
  type FormContent,
  messagesOf,
  type Outcome,
  outcomes,
  ourAnswer,
  ownPageOf,
  takesMessages,
  type Version,
} from '#core/form'
import type { MemberId } from '#core/ids'
import { giftsOnAnswer, type MailSettings, mustConfirm } from '#core/mail'
import { rehearsalCodeIn } from '#core/proof'
import { deviceOf } from '#core/results'
import { countryOf } from '#core/region'
import { answerPage, closedPage, formAgainPage, puzzlePage } from '#core/render'
import {
  controlNames,
  type FieldError,
  ON_OUR_PAGE,
  pageOf,
  passedOnBy,
  type PostedValues,
  readPosted,
  readSignUp,
  type SignUp,
} from '#core/signup'
import type { Spot } from '#core/spot'
import { complain } from '../log'
import type { SignUpOutcome } from '../metrics'
import { deviceOfBrowser, isCounted } from '../results'
import { calm } from '../limits'
import { signUpToken } from '../mail'
import type { PeopleLedger, SignUpResult } from '../people'
import { networkOf } from '../network'
import { type Posts, sendPage } from '../pages'
import { type Problem, sendProblem, sendProblemPage } from '../http/problem'
import { readBody } from '../http/read-body'
import { REHEARSAL_HEADER } from '#core/rehearsal'
import { rehearsalOf } from '../rehearsals'
import type { VisitorParts } from '../subject'
import { isThrowAway } from '../throw-away'
import { visitorAddress } from '../http/visitor-address'
import { spotHeldAs } from './rehearsed-spot'
import { bodyProblems, closedSpot, invalid, noRehearsal, notStored, tooMany, unknownSpot } from './join-problems'
import { giftOnAnswer } from './gift-on-answer'
import { isInFrame, passedOn, sendOnward } from './onward'
import { wayBack } from './way-back'

export type JoinParts = Pick<
  VisitorParts,
  'ledger' | 'settings' | 'limiter' | 'causes' | 'puzzles' | 'rehearsals' | 'counting' | 'noticeProxy' | 'metrics'
> & { now(): number }

declare module 'hono' {
  interface ContextVariableMap {
    signUpOutcome: SignUpOutcome
  }
}

function outcomeByStatus(status: number): SignUpOutcome {
  return status === 429
    ? 'limited'
    : status === 404 || status === 410
      ? 'closed'
      : status >= 500
        ? 'not-stored'
        : 'invalid'
}

/** A stored sign-up, to be answered. */
interface Answered {
  signUp: SignUp
  posted: PostedValues
  page: string
  stored: SignUpResult
  people: PeopleLedger
  isRehearsed: boolean
}

/**
 * `POST /join/:spot`: takes in one sign-up, by the public contract. The way of every sign-up is here from
 * top to bottom: limits, the spot, the body, the verdict, the store, the answer.
 */
export function joinRoutes({
  ledger,
  settings,
  limiter,
  causes,
  puzzles,
  rehearsals,
  counting,
  now,
  noticeProxy,
  metrics,
}: JoinParts): Hono {
  const routes = new Hono()
  routes.options(
    '/join/:spot',
    (c, next) => {
      c.header('X-Content-Type-Options', 'nosniff')
      return next()
    },
    cors({ origin: '*', allowMethods: ['POST'], allowHeaders: ['Content-Type', 'Accept'], maxAge: 86_400 }),
  )

  routes.post('/join/:spot', async (c) => {
    const begun = performance.now()
    const answer = await join(c)
    metrics.signUp(c.get('signUpOutcome') ?? outcomeByStatus(answer.status), performance.now() - begun)
    return answer
  })

  routes.on(['GET', 'PUT', 'PATCH', 'DELETE'], '/join/:spot', (c) =>
    refuse(c, {
      status: 405,
      title: 'Sign-ups are posted',
      detail: 'This address takes a form’s answers and shows nothing by itself.',
      headers: { Allow: 'POST, OPTIONS' },
    }),
  )
  return routes

  async function join(c: Context): Promise<Response> {
    // What the CORS middleware would do for a post, without its cost: it makes every answer a streamed one.
    c.header('Access-Control-Allow-Origin', '*')
    c.header('Access-Control-Expose-Headers', 'Retry-After')
    c.header('X-Content-Type-Options', 'nosniff')
    // The way to the answer as well, where a frame stands on a page with an embedder policy.
    c.header('Cross-Origin-Resource-Policy', 'cross-origin')
    noticeProxy(c)
    const visitor = visitorAddress(c, settings.trustedProxies)
    const asked = await rehearsalOf(c.req.header(REHEARSAL_HEADER), rehearsals)
    if (asked === 'refused') {
      // Or codes could be tried without end.
      const waitSeconds = limiter.take(visitor)
      return refuse(c, waitSeconds > 0 ? tooMany(waitSeconds) : noRehearsal)
    }
    const published = ledger.published()
    const spot = spotHeldAs(published.spot(c.req.param('spot') ?? ''), asked?.as ?? null)
    const isSpared = asked !== null && (await rehearsals.mayAsk(asked.rehearsal.code, spot?.id))
    const waitSeconds = isSpared ? 0 : limiter.take(visitor)
    if (waitSeconds > 0) metrics.refusedNetworks.note(visitor)
    const latest = spot && published.latestVersion(spot.form)
    if (waitSeconds > 0)
      return spot !== undefined && latest !== undefined && isFormPost(c)
        ? notPossible(c, { spot, version: latest, posted: {} }, tooMany(waitSeconds))
        : refuse(c, tooMany(waitSeconds))
    if (spot === undefined || latest === undefined) return refuse(c, unknownSpot)
    if (spot.state !== 'live')
      return isFormPost(c)
        ? sendPage(c, settings.publicUrl, closedPage(latest.content, spot.state, wayBack(ledger, spot, c)), {
            posts: 'nothing',
            status: 410,
          })
        : refuse(c, { ...closedSpot, detail: closedWords(latest.content, spot.state) })

    const body = await readBody(c, settings.bodyLimit)
    if (!body.ok)
      return refuse(c, bodyProblems[body.code] ?? invalid([{ field: '', code: body.code, message: body.message }]))
    const posted = readPosted(body.pairs)
    if (!posted.ok) return refuse(c, invalid(posted.problems))

    const version = published.version(spot.form, Number(posted.values['askbox-version'])) ?? latest
    const page = pageOf(posted.values['askbox-page'] ?? c.req.header('Referer') ?? null, spot)
    const reading = readSignUp({ spot, version }, posted.values, page, {
      isThrowAway,
      isSpared: (compared) => rehearsalCodeIn(compared) !== null,
    })
    if (!reading.ok) {
      return wantsJson(c)
        ? refuse(c, invalid(reading.errors))
        : showAgain(c, { spot, version, posted: posted.values, errors: reading.errors, page })
    }

    const retryKey = createHash('sha256').update(`${visitor}\n${spot.id}\n`).update(body.bytes).digest('base64url')
    // A made-up person joins the people of the rehearsal that made them up, and nobody else.
    const code = rehearsalCodeIn(reading.signUp.email?.compared ?? '')
    const rehearsal = code === null ? null : await rehearsals.get(code)
    // Nor does anybody else join by its mark, or at another spot than it is of.
    if ((code !== null && rehearsal === null) || (asked !== null && rehearsal?.code !== asked.rehearsal.code))
      return refuse(c, noRehearsal)
    if (rehearsal !== null && !(await rehearsals.mayJoin(rehearsal.code, spot.id))) return refuse(c, noRehearsal)
    if (rehearsal !== null && asked === null) limiter.giveBack(visitor)
    // A rehearsal's people are known to be no bots, and a bot in the trap learns of nothing.
    if (version.content.guard?.puzzle && code === null && !reading.signUp.isBot) {
      const solution = posted.values['askbox-puzzle'] ?? ''
      if (!(await puzzles.isSolved(solution, spot.id, retryKey)))
        return askPuzzle(c, { spot, version, posted: posted.values, page })
    }
    const { email } = reading.signUp
    const cause = rehearsal !== null || email === null ? calm : causes.take(visitor, email.compared)
    const view =
      rehearsal !== null || !reading.signUp.joins || !isCounted(c)
        ? null
        : await counting.signedUp(posted.values['askbox-view'] ?? '', spot.id, version.number, {
            cameFrom: reading.signUp.cameFrom ?? {},
            device:
              Number(posted.values['askbox-width']) > 0
                ? deviceOf(Number(posted.values['askbox-width']))
                : deviceOfBrowser(c),
            address: visitor,
          })
    const people = rehearsal?.space ?? ledger
    const stored = await people
      .signUp({ ...reading.signUp, ...withOwnerNow(latest), network: networkOf(visitor) }, retryKey, cause, view)
      .catch((error: unknown) => {
        complain(error, c)
        return null
      })
    if (stored === null)
      return wantsJson(c) ? refuse(c, notStored) : notPossible(c, { spot, version, posted: posted.values }, notStored)
    c.set('signUpOutcome', stored.verdict)
    return answered(c, {
      signUp: reading.signUp,
      posted: posted.values,
      page,
      stored,
      people,
      isRehearsed: rehearsal !== null,
    })
  }

  /** Says what came of a stored sign-up: as JSON to the script, else by a redirect to the answer's page. */
  async function answered(
    c: Context,
    { signUp, posted, page, stored, people, isRehearsed }: Answered,
  ): Promise<Response> {
    const { spot, version } = signUp
    const mail = ledger.published().mail(version.list)
    const answerCase = answerFor(stored.verdict, mail, signUp)
    const answer = answerTo(version.content, answerCase)
    const passed = passedOnBy(answer, signUp, posted, page)
    const address = ownPageOf(answer, (key) => passed[key] ?? '')
    const outcome = outcomeOf(answerCase)
    // Whoever joined nothing has no address there that could be put right.
    const looksMistyped = signUp.joins && meantAddress(signUp.email?.typed ?? '') !== null
    const { member, verdict, isMailHeld } = stored
    const token = async (isNeeded: boolean) =>
      isNeeded
        ? signUpToken(await ledger.linkKeys(), { member, spot: spot.id, answerCase, isMailHeld, at: now() })
        : null
    if (!wantsJson(c)) {
      // After a form post, the answer's page asks about a slip.
      const isOurs = isMailHeld || address === null || isAnsweredHere(c, posted)
      if (!isOurs) return c.redirect(address, 303)
      const hasValues = Object.keys(passed).length > 0
      return c.redirect(
        ourAnswerPage(spot, version, answerCase, {
          again: await token(signUp.joins && (mail !== null || looksMistyped)),
          with: hasValues ? passedOn(await ledger.linkKeys(), spot.id).seal(passed, now()) : null,
        }),
        303,
      )
    }
    const again = await token(mail !== null && outcome === 'confirm-first')
    // Our script asks about a slip while the address is typed; sent by Enter, an address is never left.
    const isSlip = !isRehearsed && looksMistyped && (verdict === 'joined' || verdict === 'confirm-first')
    const instead = await token(isSlip)
    const [gift] =
      answerCase === 'joined' && mail !== null && giftsOnAnswer(mail) ? await giftFor(stored.member, people) : []
    return c.json(
      {
        outcome,
        ...(answerCase !== outcome && { case: answerCase }),
        // The script has the published answers. Our own page says that no mail went.
        ...(isMailHeld
          ? { address: `${settings.publicUrl}${ourAnswerPage(spot, version, answerCase, { again })}`, held: true }
          : address !== null && Object.keys(passed).length > 0 && { address }),
        ...(gift !== undefined && address === null && { gift: { address: gift.address, words: gift.words } }),
        ...(again !== null && { again }),
        ...(instead !== null && { instead }),
      },
      200,
      { 'Cache-Control': 'no-store' },
    )
  }

  async function giftFor(id: MemberId, people: PeopleLedger) {
    const member = await people.member(id)
    return member === null ? [] : giftOnAnswer(ledger, settings.publicUrl, member)
  }

  /** The owner's words for refused sign-ups, in the form's look. */
  function notPossible(
    c: Context,
    { spot, version, posted }: { spot: Spot; version: Version; posted: PostedValues },
    { status, headers = {} }: Problem,
  ): Response {
    const { content } = version
    const answer = answerTo(content, 'not-possible')
    const own = ownPageOf(answer, () => '')
    if (own !== null && !isAnsweredHere(c, posted)) return c.redirect(own, 303)
    // Nothing was stored, so nothing is done twice by a page that is loaded again.
    if (own !== null) {
      const said = ourAnswer('not-possible', content.language, false)
      return sendOnward(c, settings.publicUrl, own, { said, content, sign: 'cross', status, headers })
    }
    return sendPage(c, settings.publicUrl, answerPage(answer, content, wayBack(ledger, spot, c)), {
      posts: 'nothing',
      status,
      headers,
    })
  }

  /** The browser has something to solve first: by itself where a script of ours posted, else on a page that does it. */
  async function askPuzzle(
    c: Context,
    { spot, version, posted, page }: { spot: Spot; version: Version; posted: PostedValues; page: string },
  ): Promise<Response> {
    const puzzle = await puzzles.make(spot.id)
    if (wantsJson(c))
      return sendProblem(c, {
        ...invalid([{ field: '', code: 'puzzle', message: 'Solve the puzzle and send its solution along.' }]),
        puzzle,
      })
    const ours = ['askbox-puzzle', 'askbox-page', ON_OUR_PAGE]
    const answers = Object.entries(posted).filter(([name]) => !ours.includes(name))
    return sendPage(
      c,
      settings.publicUrl,
      puzzlePage(version.content, {
        action: `${settings.publicUrl}/join/${spot.id}`,
        script: `${settings.publicUrl}/puzzle.js`,
        puzzle: JSON.stringify(puzzle),
        values: [...answers, ['askbox-page', page], [ON_OUR_PAGE, '1']],
        wayBack: wayBack(ledger, spot, c),
      }),
      { posts: 'to-us', status: 422, withScript: true },
    )
  }

  function showAgain(
    c: Context,
    {
      spot,
      version,
      posted,
      errors,
      page,
    }: { spot: Spot; version: Version; posted: PostedValues; errors: FieldError[]; page: string },
  ): Response {
    const names = version.content.fields.flatMap(controlNames)
    const placed = {
      content: version.content,
      form: version.form,
      version: version.number,
      spot: spot.id,
      receiver: settings.publicUrl,
    }
    const state = {
      values: Object.fromEntries(names.map((name) => [name, posted[name]])),
      errors: Object.fromEntries(errors.map((error) => [error.field, error.message])),
      page,
      isOnOurPage: true,
      cameFrom: {
        source: posted['askbox-source'],
        campaign: posted['askbox-campaign'],
        referrer: posted['askbox-referrer'],
      },
      view: posted['askbox-view'],
    }
    return sendPage(c, settings.publicUrl, formAgainPage(placed, state, wayBack(ledger, spot, c)), {
      posts: postsOf(version.content),
      status: 422,
      frames: framesOf(version.content),
      actsByItself: true,
    })
  }
}

/** Where a form on a page of ours posts to. */
export function postsOf({ direct }: FormContent): Posts {
  return direct === undefined ? 'to-us' : 'to-a-service'
}

/** Whether a post is answered by a page of ours, whatever the answer is: see `onward.ts`. */
function isAnsweredHere(c: Context, posted: PostedValues): boolean {
  return posted[ON_OUR_PAGE] !== undefined || isInFrame(c)
}

/** Origins of the frames that a form shows. */
export function framesOf({ video }: FormContent): string[] {
  return video === null ? [] : [new URL(video.address).origin]
}

/**
 * Which answer somebody is shown. A bot is told what somebody new would be, so that it learns nothing; where the list is
 * discreet, so is who is on it already, and who waits.
 */
function answerFor(verdict: SignUpResult['verdict'], mail: MailSettings | null, { whereabouts }: SignUp): AnswerCase {
  const isDiscreet = mail?.isDiscreet ?? false
  const isAsNew = verdict === 'bot' || (isDiscreet && (verdict === 'already-on-list' || verdict === 'already-waiting'))
  if (!isAsNew) return verdict
  const country = mail?.confirm === 'regions' ? countryOf(whereabouts) : null
  return mail !== null && mustConfirm(mail, country) ? 'confirm-first' : 'joined'
}

/** The same as the contract names it. */
export function outcomeOf(answerCase: AnswerCase): Outcome {
  return outcomes.find((one) => one === answerCase) ?? 'confirm-first'
}

/** Messages go where the newest version says, whichever the visitor saw. */
function withOwnerNow({ content }: Version): Pick<SignUp, 'messagesTo'> {
  return takesMessages(content) ? { messagesTo: messagesOf(content).to } : {}
}

/** The answer's page of ours, where a form post is sent on. */
export function ourAnswerPage(
  spot: Spot,
  version: Version,
  answerCase: AnswerCase,
  along: { again?: string | null; with?: string | null; then?: string },
): string {
  const more = Object.entries(along).flatMap(([name, value]) => (value ? [`&${name}=${value}`] : []))
  return `/answer/${spot.id}/${answerCase}?version=${version.number}${more.join('')}`
}

function wantsJson(c: Context): boolean {
  const accept = c.req.header('Accept') ?? ''
  const type = c.req.header('Content-Type') ?? ''
  return /\bapplication\/(problem\+)?json\b/i.test(accept) || /^\s*application\/json\b/i.test(type)
}

/** A plain form's post, whose sender reads a page. */
function isFormPost(c: Context): boolean {
  return (
    /^\s*(application\/x-www-form-urlencoded|multipart\/form-data)\b/i.test(c.req.header('Content-Type') ?? '') &&
    !wantsJson(c)
  )
}

function refuse(c: Context, problem: Problem): Response {
  return isFormPost(c) ? sendProblemPage(c, problem) : sendProblem(c, problem)
}
