import { isSubmitButton, submissionOf, type Submission } from '#core/submission'
import { type AnswerCase, answerTo, type FormContent, type Version } from '#core/form'
import { isMailProvider } from '#core/email'
import { domainOf, giftsOnAnswer, messagesInUse } from '#core/mail'
import { countryOf } from '#core/region'
import {
  closedWords,
  type Evidence,
  evidence,
  expectedAnswer,
  expectedError,
  expectedMember,
  expectedOutcome,
  type Failure,
  failure,
  judgeAnswer,
  judgeMember,
  judgeKept,
  judgeRefusal,
  linkIn,
  MAX_SEEN_LENGTH,
  nameFields,
  personFor,
  type PersonAnswers,
  type Proof,
  rehearsalAddress,
  type RehearsalCase,
  requiredFields,
  type Shown,
  type Step,
  unusualNames,
  wrongAddresses,
} from '#core/proof'
import { buttonOf, type Fill, fillsOf, filledIn } from '#core/usable'
import { framingProblem, lookAtFile, lookAtPage, type RehearsalSubject, type Standing } from './page'
import { awaitMail, judgeGift, judgeLink, type MailWay, openLink, press, saysAnswer, statusProblem } from './mail'
import { obstacleMet, shownTo } from './hand'
import { type AnsweredPage, type As, type Browsed, NoAnswer, type Ports, type Visited, type VisitWish } from './ports'
import { shownOn } from './shown'
import { visitOf } from './visit'
import { pagesWithout } from './without'

/** CSS pixels: a common phone. */
const PHONE_WIDTH = 360
const DESK_WIDTH = 1024

/** What came of one try to sign up. */
type Tried =
  | { isTried: true; shown: Shown; evidence: Evidence[]; remarks: readonly string[] }
  | { isTried: false; reason: string }
  /** Something kept the visitor from it. */
  | { isTried: false; reason: string; met: { station: Step['station']; failure: Failure } }

/**
 * A made-up person goes the whole way of one spot, case by case: page, form, answer, list. Each step is told as soon as it
 * is known; the first that fails ends the rehearsal.
 *
 * @param cases those that are on, besides the look at the page
 * @param tell called with every step; returning false stops
 * @returns how it went as a whole; where nobody could try to sign up, that nothing was tried
 */
export async function rehearse(
  subject: RehearsalSubject,
  cases: readonly RehearsalCase[],
  ports: Ports,
  tell: (step: Step) => boolean,
): Promise<Proof['verdict']> {
  let since = ports.now()
  let outcome: Proof['verdict'] = cases.some(isSignUp) ? 'not-tried' : 'passed'
  const say = (step: Omit<Step, 'ms'>): boolean => {
    const now = ports.now()
    const goesOn = tell({ ...step, seen: cut(step.seen), ms: Math.max(0, Math.round(now - since)) })
    since = now
    if (step.verdict === 'failed') outcome = 'failed'
    else if (!goesOn) outcome = 'stopped'
    else if (step.verdict === 'passed' && isSignUp(step.case)) outcome = 'passed'
    return goesOn && step.verdict !== 'failed'
  }

  const look = await lookAtPage(subject, ports)
  for (const step of look.steps) if (!say(step)) return outcome
  const version = subject.versions.at(-1)
  const [doubt] = look.doubts
  if (look.standing === null || version === undefined) {
    if (doubt !== undefined) say(doubt)
    return outcome
  }
  const way = new Way(subject, version, look.standing, ports)
  if (doubt !== undefined && !say(await way.cleared(doubt))) return outcome
  for (const one of cases) for await (const step of way.tries[one]()) if (!say({ case: one, ...step })) return outcome
  return outcome
}

/** Without one of these a rehearsal proves no sign-up. */
function isSignUp(one: Step['case']): boolean {
  return one !== 'page' && one !== 'closed' && one !== 'elsewhere'
}

/** Words of an answer may be longer than a proof keeps. */
function cut(text: string): string {
  return text.length > MAX_SEEN_LENGTH ? `${text.slice(0, MAX_SEEN_LENGTH - 2)} …` : text
}

type CaseStep = Omit<Step, 'case' | 'ms'>
type CaseSteps = AsyncGenerator<CaseStep>

const passed = (station: Step['station'], what: string, seen: string): CaseStep => ({
  station,
  what,
  verdict: 'passed',
  seen,
})
const failed = (station: Step['station'], what: string, problem: Failure): CaseStep => ({
  station,
  what,
  verdict: 'failed',
  seen: problem.happened,
  failure: problem,
})
const notTried = (station: Step['station'], what: string, reason: string): CaseStep => ({
  station,
  what,
  verdict: 'not-tried',
  seen: reason,
})
/** What kept somebody from trying, or why it was not tried. */
const notDone = (station: Step['station'], what: string, tried: Tried & { isTried: false }): CaseStep =>
  'met' in tried ? failed(tried.met.station, what, tried.met.failure) : notTried(station, what, tried.reason)
/** A failure by what was seen, else a pass. */
const judged = (station: Step['station'], what: string, problem: Failure | null, seen: string): CaseStep =>
  problem === null ? passed(station, what, seen) : failed(stationOf(problem, station), what, problem)

/** Some failures show at one station and belong to another. */
function stationOf({ code }: Failure, station: Step['station']): Step['station'] {
  if (code === 'taken-for-bot' || code === 'refused') return 'form'
  return code === 'closed' ? 'spot' : station
}

/** One spot's way, as it stands on its page. */
class Way {
  private readonly content: FormContent
  /** What the list's settings say of people who sign up here. */
  private readonly outcome: ReturnType<typeof expectedOutcome>

  constructor(
    private readonly subject: RehearsalSubject,
    private readonly version: Version,
    private readonly standing: Standing,
    private readonly ports: Ports,
  ) {
    this.content = version.content
    const country = countryOf({ country: '', zone: standing.through === 'script' ? (ports.browser?.zone ?? '') : '' })
    this.outcome = expectedOutcome(subject.mail, country)
  }

  readonly tries: Record<RehearsalCase, () => CaseSteps> = {
    first: () => this.first(),
    again: () => this.again(),
    wrong: () => this.wrong(),
    empty: () => this.empty(),
    names: () => this.names(),
    bot: () => this.bot(),
    double: () => this.double(),
    mail: () => this.mail(),
    closed: () => this.closed(),
    elsewhere: () => this.elsewhere(),
    'scripts-off': () => this.inBrowser('scriptsoff', DESK_WIDTH, false),
    phone: () => this.inBrowser('phone', PHONE_WIDTH, true),
  }

  /**
   * A doubt that the markup alone raises, as a browser at desk and at phone size sees it: gone where the form can be used.
   */
  async cleared(doubt: Omit<Step, 'ms'>): Promise<Omit<Step, 'ms'>> {
    if (this.ports.browser?.kind !== 'visits') return doubt
    const fills = fillsOf(this.content, personFor(this.content, this.address('look')))
    for (const size of ['desk', 'phone'] as const) {
      const seen = await this.visit(size, true, fills, 0)
      if (!seen.isTried || obstacleMet(seen) !== null) return doubt
    }
    return {
      case: doubt.case,
      station: doubt.station,
      what: doubt.what,
      verdict: 'passed',
      seen: `A browser shows it, at desk and at phone size, and every field can be filled in. By the page’s source alone it looked otherwise: ${doubt.seen}`,
    }
  }

  private visit(
    size: VisitWish['size'],
    hasScripts: boolean,
    fills: readonly Fill[] | null,
    presses: VisitWish['presses'],
    address = this.standing.sitePage.address,
  ): Promise<Browsed<Visited>> {
    const { browser } = this.ports
    if (browser?.kind !== 'visits') return Promise.resolve({ isTried: false, reason: NEEDS_BROWSER })
    const { spot, receiver } = this.subject
    return browser.visit(visitOf(spot, receiver, { address, size, hasScripts, fills, presses }))
  }

  /** One try by a hand in a browser. */
  private async byHand(
    size: VisitWish['size'],
    hasScripts: boolean,
    fills: readonly Fill[],
    presses: 1 | 2,
  ): Promise<Tried & { visited?: Visited }> {
    const seen = await this.visit(size, hasScripts, fills, presses)
    if (!seen.isTried) return seen
    const met = obstacleMet(seen)
    if (met !== null) return { isTried: false, reason: met.failure.happened, met, visited: seen }
    const shown = shownTo(seen, this.standing.sitePage.address) ?? { ...NOTHING, heading: 'no answer' }
    const more = [...seen.remarks, ...seen.complaints].join('\n')
    return {
      isTried: true,
      shown,
      remarks: seen.remarks,
      evidence: [
        evidence('response', JSON.stringify(shown, null, 1)),
        ...(more === '' ? [] : [evidence('response', more)]),
      ],
      visited: seen,
    }
  }

  private async *first(): CaseSteps {
    const { browser } = this.ports
    // A page of ours has no scripts of others, and nothing over its form.
    if (browser?.kind !== 'visits' && !this.isOurs())
      yield notTried('form', 'Filled in by a hand, with the page’s own scripts', BY_HAND_ONLY)
    if (this.content.guard?.puzzle) yield await this.puzzle()
    yield* this.joining(
      'first',
      browser?.kind === 'visits' ? 'Somebody new, in a browser' : 'Somebody new',
      {},
      1,
      true,
    )
    if (this.subject.spot.kind !== 'landing') return
    const what = 'Somebody new, by the page as a file'
    const file = await lookAtFile(this.subject, this.ports)
    if ('code' in file) return yield failed('form', what, file)
    yield* new Way(this.subject, this.version, file, this.ports).joining('file', what, {})
  }

  /** Made-up people are spared the puzzle; what solves it for visitors has to be there all the same. */
  private async puzzle(): Promise<CaseStep> {
    const what = 'The puzzle of its guard'
    const address = `${this.subject.receiver}/puzzle.js`
    let happened: string
    try {
      const { status, html } = await this.ports.fetch(address)
      if (status === 200 && !html.trimStart().startsWith('<'))
        return passed('form', what, 'The script that solves it for visitors is handed out.')
      happened = `${address} answers ${status}${status === 200 ? ', with a page in place of a script' : ''}.`
    } catch (error) {
      if (!(error instanceof NoAnswer)) throw error
      happened = error.message
    }
    return failed(
      'form',
      what,
      failure('puzzle-missing', 'settings', {
        expected: `${address} hands out the script that solves the puzzle.`,
        happened,
        cause: 'Something before the receiver keeps the script back.',
        mend: 'Let that address through, or switch the puzzle off in the form’s guard.',
      }),
    )
  }

  private address(who: string): string {
    return rehearsalAddress(this.ports.code, who)
  }

  /** Somebody signs up: the answer is read, and the member looked up. */
  private async *joining(
    who: string,
    what: string,
    changes: PersonAnswers,
    presses: 1 | 2 = 1,
    isByHand = false,
  ): CaseSteps {
    const email = this.address(who)
    const answers = { ...personFor(this.content, email), ...changes }
    const tried =
      isByHand && this.ports.browser?.kind === 'visits'
        ? await this.byHand('desk', true, fillsOf(this.content, answers), presses)
        : await this.signUp(answers, presses)
    if (!tried.isTried) return yield notDone('form', what, tried)
    // By a request alone, nobody has filled anything in.
    if (who === 'first' && (this.ports.browser?.kind === 'visits' || this.isOurs()))
      yield passed('form', what, ['Every question was answered, and the form sent.', ...tried.remarks].join(' '))
    yield this.answered(what, this.outcome.joins, tried, answers)
    yield await this.member(what, answers, email)
  }

  /** Whether no scripts of others stand around the form, and nothing lies over it; or a frame showed it with all that. */
  private isOurs(): boolean {
    return this.subject.spot.kind === 'landing' || this.standing.through === 'script'
  }

  private answered(
    what: string,
    one: AnswerCase,
    { shown, evidence: more }: Tried & { isTried: true },
    answers: PersonAnswers,
  ): CaseStep {
    const expected = expectedAnswer(this.content, one, answers)
    return judged(
      'answer',
      what,
      judgeAnswer(expected, shown, one, more),
      expected.kind === 'own-page' ? `${shown.address} opened.` : `“${shown.heading || shown.message}”`,
    )
  }

  private async member(what: string, answers: PersonAnswers, email: string): Promise<CaseStep> {
    const status = this.outcome.joins === 'joined' ? 'confirmed' : 'waiting'
    const shared = sharedColumn(this.content)
    if (shared !== null) return failed('list', what, shared)
    const expected = expectedMember(this.content, answers, email, status)
    const seen = await this.ports.member(email)
    const { list } = this.subject
    return judged(
      'list',
      what,
      judgeMember(expected, seen, list, this.content),
      `In “${list?.name}”, ${status === 'waiting' ? 'waiting to confirm' : status}${Object.keys(expected.values).length > 0 ? `, with ${Object.keys(expected.values).join(', ')}` : ''}${expected.tags.length > 0 ? `, tagged ${expected.tags.join(', ')}` : ''}.`,
    )
  }

  private async *again(): CaseSteps {
    const email = this.address('again')
    const once = await this.signUp(personFor(this.content, email))
    if (!once.isTried) return yield notDone('form', 'The same address again', once)
    const answers = personFor(this.content, `  ${email.toUpperCase()} `)
    const tried = await this.signUp(answers)
    if (!tried.isTried) return yield notDone('form', 'The same address again', tried)
    yield this.answered('The same address, in capitals and with spaces', this.outcome.again, tried, answers)
    const { arrivals } = await this.ports.member(email)
    const verdicts = arrivals.map(({ verdict }) => verdict)
    const wanted =
      this.outcome.joins === 'joined' ? ['joined', 'already-on-list'] : ['confirm-first', 'already-waiting']
    yield judged(
      'list',
      'Still one member',
      verdicts.join() === wanted.join()
        ? null
        : failure(
            'twice-in-list',
            'list',
            {
              expected: wanted.join(', then '),
              happened: verdicts.join(', ') || 'nobody',
              cause: 'The two spellings were taken for two people.',
              mend: 'Look at the list; one of the two can be taken out.',
            },
            evidence('member', JSON.stringify(arrivals, null, 1)),
          ),
      'One member, two sign-ups.',
    )
  }

  private async *wrong(): CaseSteps {
    const field = this.content.fields.find(({ kind }) => kind === 'email')!
    for (const { what, address, wrong } of wrongAddresses) {
      const tried = await this.signUp(personFor(this.content, address))
      if (!tried.isTried) return yield notDone('form', 'Wrong addresses', tried)
      const message = expectedError(this.content, field, wrong)
      yield judged(
        'form',
        `An address with ${what}`,
        judgeRefusal(new Map([[field.key, message]]), tried.shown, `“${address}”`, tried.evidence) ??
          judgeKept(field.key, address, tried.shown, tried.evidence),
        `Refused: “${message}”`,
      )
    }
  }

  private async *empty(): CaseSteps {
    const required = requiredFields(this.content)
    const tried = await this.signUp({})
    if (!tried.isTried) return yield notDone('form', 'Required fields empty', tried)
    const wanted = new Map(required.map((field) => [field.key, expectedError(this.content, field, 'missing')]))
    yield judged(
      'form',
      'Nothing filled in',
      judgeRefusal(wanted, tried.shown, 'An empty form', tried.evidence),
      `Asked for again: ${required.map(({ label, key }) => label.trim() || key).join(', ')}.`,
    )
  }

  private async *names(): CaseSteps {
    const [field] = nameFields(this.content)
    if (field === undefined) return
    for (const [at, { what, name }] of unusualNames.entries()) {
      const steps = this.joining(`name${at}`, `A name ${what}`, { [field.key]: { text: name } })
      yield* steps
    }
  }

  private async *bot(): CaseSteps {
    const what = 'A bot that fills everything'
    if (this.standing.through === 'script')
      return yield notTried('form', what, 'Bots read markup; with script code there is no form in it to fill.')
    const email = this.address('bot')
    const answers = personFor(this.content, email)
    const tried = await this.signUp(answers, 1, true)
    if (!tried.isTried) return yield notDone('form', what, tried)
    yield this.answered(what, this.outcome.bot, tried, answers)
    const { member, arrivals } = await this.ports.member(email)
    yield judged(
      'list',
      'It is in no list',
      member === null && arrivals.at(-1)?.verdict === 'bot'
        ? null
        : failure(
            'bot-joined',
            'page',
            {
              expected: 'The bot is held back.',
              happened: member === null ? 'It was not seen at all.' : 'It joined the list.',
              cause: 'The trap that only bots fill in is missing from the page.',
              mend: 'Paste the code anew in its place.',
            },
            evidence('member', JSON.stringify({ member, arrivals }, null, 1)),
          ),
      'Held back, and told nothing of it.',
    )
  }

  private async *double(): CaseSteps {
    yield* this.joining('double', 'The button pressed twice', {}, 2)
    const { arrivals } = await this.ports.member(this.address('double'))
    if (arrivals.length === 0) return
    yield judged(
      'list',
      'One sign-up of the two',
      arrivals.length === 1
        ? null
        : failure('counted-twice', 'settings', {
            expected: 'One sign-up.',
            happened: `${arrivals.length}: ${arrivals.map(({ verdict }) => verdict).join(', ')}.`,
            cause: 'The second press reached the receiver as another sign-up.',
            mend: 'Nothing is lost: there is one member. Tell whoever looks after the receiver.',
          }),
      'Counted once.',
    )
  }

  /** On through the mail: confirmed, welcomed, given the gift, left; then a link used up, and one that is too old. */
  private async *mail(): CaseSteps {
    const { mail: settings, list, receiver } = this.subject
    if (settings === null || list === null || messagesInUse(settings).length === 0) return
    const domain = domainOf(settings.senderAddress.trim().toLowerCase())
    if (isMailProvider(domain))
      yield notTried(
        'mail',
        'The sender',
        `${settings.senderAddress.trim()} is a mailbox at ${domain}. Its provider tells others to refuse mail in its name that comes from elsewhere, so much of this will not arrive. Use an address on your site’s own domain.`,
      )
    const way: MailWay = { ports: this.ports, settings, list, content: this.content, publicUrl: receiver }
    const email = this.address('mail')
    const answers = personFor(this.content, email)
    const tried = await this.signUp(answers)
    if (!tried.isTried) return yield notDone('mail', 'Through the mail', tried)
    // Whatever field fills that column.
    const firstName = expectedMember(this.content, answers, email).values['first-name'] ?? ''
    const statusNow = async () => (await this.ports.member(email)).member?.status ?? null
    let known = 0
    if (this.outcome.joins === 'confirm-first') {
      const first = await awaitMail(way, email, 'confirmation', known, firstName)
      if (!first.ok) return yield failed('mail', 'The mail to confirm', first.problem)
      known += 1
      yield passed('mail', 'The mail to confirm', first.seen)
      const link = linkIn(first.mail, receiver, 'confirm')!
      const opened = await openLink(way, link)
      yield judged(
        'mail',
        'Its link, opened and not pressed',
        opened.form === null
          ? failure('mail-page', 'mail', {
              expected: 'The link opens a page with a button.',
              happened: `“${opened.shown.heading || opened.shown.message}”, status ${opened.shown.status}`,
              cause: 'The page that the mail leads to is not the receiver’s, or cannot be reached.',
              mend: 'Open the link yourself; look at what stands before the receiver.',
            })
          : statusProblem('waiting', await statusNow(), 'Opening the link was taken for pressing its button.'),
        'It shows a button, and nothing has changed yet.',
      )
      if (opened.form === null) return
      // Spelt otherwise, because the very same within half a minute would be a double press.
      const otherwise = { ...answers, ...personFor(this.content, email.toUpperCase()) }
      const again = await this.signUp(otherwise)
      if (again.isTried) yield this.answered('Joined again while waiting', this.outcome.again, again, otherwise)
      const second = await awaitMail(way, email, 'confirmation', known, firstName)
      if (!second.ok) return yield failed('mail', 'The mail once more', second.problem)
      known += 1
      yield passed('mail', 'The mail once more', second.seen)
      const confirmed = await press(way, opened.form)
      yield judged(
        'mail',
        'The button pressed',
        saysAnswer(this.content, 'confirmed', confirmed) ??
          statusProblem('confirmed', await statusNow(), 'The press did not reach the list.'),
        `“${confirmed.heading || confirmed.address}”, and on the list.`,
      )
      yield* this.giftOnAnswer(way, confirmed)
      const used = await press(way, opened.form)
      yield judged(
        'mail',
        'The link used twice',
        saysAnswer(this.content, 'confirmed', used),
        'It says the same, and nothing happens twice.',
      )
    } else yield* this.giftOnAnswer(way, tried.shown)
    if (settings.messages.welcome.isOn) {
      const welcome = await awaitMail(way, email, 'welcome', known, firstName)
      if (!welcome.ok) return yield failed('mail', 'The welcome', welcome.problem)
      known += 1
      yield passed('mail', 'The welcome', welcome.seen)
      const gift = await judgeGift(way, welcome.mail)
      if (gift !== null) yield judged('mail', 'The gift', gift.problem, gift.seen)
      const oneClick = /<([^>\s]{1,500})>/.exec(welcome.mail.headers['list-unsubscribe'] ?? '')?.[1]
      if (oneClick !== undefined) {
        await press(way, { action: oneClick, body: 'List-Unsubscribe=One-Click' })
        yield judged(
          'mail',
          'Left by one press in the mail program',
          statusProblem('left', await statusNow(), 'The post of RFC 8058 did not reach the list.'),
          'Off the list.',
        )
        if (settings.messages.leaving.isOn) {
          const leaving = await awaitMail(way, email, 'leaving', known, firstName)
          if (!leaving.ok) return yield failed('mail', 'The notice of leaving', leaving.problem)
          yield passed('mail', 'The notice of leaving', leaving.seen)
        }
      }
    }
    if (this.outcome.joins === 'confirm-first') yield* this.tooLate(way)
  }

  /** What is handed over on the page that answers, taken as its reader would. */
  private async *giftOnAnswer(way: MailWay, shown: Shown): CaseSteps {
    // The owner's own page hands nothing of ours over; nor does an answer in the form's place.
    if (!giftsOnAnswer(way.settings) || shown.status !== 200 || !shown.address.startsWith(way.publicUrl)) return
    const gift = await judgeLink(way, shown.gift ?? null, 'The answer has no link to it.')
    yield judged('answer', 'The gift on the answer', gift.problem, gift.seen)
  }

  private async *tooLate(way: MailWay): CaseSteps {
    const email = this.address('late')
    const answers = personFor(this.content, email)
    const tried = await this.signUp(answers)
    if (!tried.isTried) return
    const { received } = await this.ports.mails(email)
    for (let looks = 0; looks < 100 && received.length === 0; looks += 1) {
      await this.ports.pause(100)
      received.push(...(await this.ports.mails(email)).received)
    }
    const link = received[0] === undefined ? null : linkIn(received[0], way.publicUrl, 'confirm')
    if (link === null) return
    await this.ports.expire(email)
    const { shown } = await openLink(way, link)
    yield judged(
      'mail',
      `A link that is older than ${way.settings.waitingDays} days`,
      saysAnswer(this.content, 'link-expired', shown) ??
        statusProblem('removed', (await this.ports.member(email)).member?.status ?? null, 'The link still works.'),
      `“${shown.heading || shown.address}”`,
    )
  }

  private async *closed(): CaseSteps {
    for (const as of ['paused', 'retired'] as const) {
      const what = `While ${as}`
      if (this.standing.through === 'script') {
        const html = await this.handedOut(as)
        const isGone = !html.includes('"form"') && html.includes(`"state":"${as}"`)
        yield judged(
          'answer',
          what,
          isGone
            ? null
            : failure(
                'not-closed',
                'spot',
                {
                  expected: 'The script gets no form, and leaves nothing on the page.',
                  happened: 'It gets one.',
                  cause: 'Something between the receiver and the page keeps an older copy.',
                  mend: 'Wait until that copy ends, and rehearse again.',
                },
                evidence('response', html),
              ),
          'The script gets no form to show.',
        )
        continue
      }
      const email = this.address(as)
      const tried = await this.signUp(personFor(this.content, email), 1, false, as)
      if (!tried.isTried) return yield notDone('answer', what, tried)
      const words = closedWords(this.content)
      const { member } = await this.ports.member(email)
      yield judged(
        'answer',
        what,
        tried.shown.status === 410 && tried.shown.heading === words.trim() && member === null
          ? null
          : failure(
              'not-closed',
              'answer',
              {
                expected: `“${words}”, and nobody joins.`,
                happened: `“${tried.shown.heading}”, status ${tried.shown.status}${member === null ? '' : '; somebody joined'}.`,
                cause: 'A closed spot does not answer as it should.',
                mend: 'Look at the words for a closed form, publish, and rehearse again.',
              },
              ...tried.evidence,
            ),
        `“${words}”`,
      )
    }
  }

  /** What the script on a page is given of a spot that is held for closed. */
  private async handedOut(as: As): Promise<string> {
    try {
      return (await this.ports.fetch(`${this.subject.receiver}/form/${this.subject.spot.id}.json`, as)).html
    } catch (error) {
      if (!(error instanceof NoAnswer)) throw error
      return error.message
    }
  }

  private async *elsewhere(): CaseSteps {
    const { spot, site } = this.subject
    if (spot.kind !== 'pop-up') return
    const pages = pagesWithout(spot, site, this.standing.sitePage.address)
    if (pages.length === 0) return
    const { browser } = this.ports
    for (const address of pages) {
      const what = `${new URL(address).pathname} stays without it`
      if (browser === null) {
        yield notTried('spot', what, NEEDS_BROWSER)
        continue
      }
      const seen =
        browser.kind === 'visits'
          ? await this.visit('desk', true, null, 0, address)
          : await browser.withScripts({ address, spot: spot.id, width: DESK_WIDTH, fills: null, presses: 1 })
      if (!seen.isTried) yield notTried('spot', what, seen.reason)
      else
        yield judged(
          'spot',
          what,
          seen.isThere
            ? failure('shown-elsewhere', 'spot', {
                expected: 'The pop-up does not appear there.',
                happened: 'It does.',
                cause: 'The rules on the receiver are others than the ones here, or the page has a part of its own.',
                mend: 'Look at the pop-up’s pages, and at what stands in that page’s head.',
              })
            : null,
          'Nothing appeared.',
        )
    }
  }

  /** A real browser shows the page at a width, without scripts, or with them where the code is a script. */
  private async *inBrowser(who: string, width: number, isPhone: boolean): CaseSteps {
    const { browser } = this.ports
    const what = isPhone ? `At phone size, ${width} pixels wide` : 'With scripts off'
    if (browser === null) return yield notTried('form', what, NEEDS_BROWSER)
    // Made-up people are spared the puzzle, so what they come to says nothing of visitors.
    if (!isPhone && this.content.guard?.puzzle)
      return yield notTried('form', what, 'The form’s guard asks for a puzzle: without scripts nobody can sign up.')
    const { standing, subject } = this
    const email = this.address(who)
    const answers = personFor(this.content, email)
    const fills = fillsOf(this.content, answers)
    if (browser.kind === 'visits') {
      if (!isPhone && standing.through === 'script' && subject.spot.kind === 'pop-up')
        return yield notTried('form', what, NO_POP_UP)
      const { visited, ...tried } = await this.byHand(isPhone ? 'phone' : 'desk', isPhone, fills, 1)
      // A page that needs scripts for its own parts is no fault of the form's.
      if (!isPhone && 'met' in tried && tried.met.station === 'spot')
        return yield notTried('form', what, `Without scripts, this page shows no form. ${tried.reason}`)
      if (!tried.isTried) return yield notDone('form', what, tried)
      const { width = 0, sticksOut = false, remarks = [] } = visited ?? {}
      yield judged(
        'form',
        what,
        fits({ isThere: true, sticksOut }),
        [`Seen, filled in and sent by a browser; the form is ${Math.round(width)} pixels wide.`, ...remarks].join(' '),
      )
      yield this.answered(what, this.outcome.joins, tried, answers)
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
        yield this.answered(
          what,
          this.outcome.joins,
          { isTried: true, shown: seen.shown, remarks: [], evidence: [] },
          answers,
        )
    } else {
      // Without scripts, script code is a link to the landing page.
      const address = standing.through === 'markup' ? standing.fetched.address : standing.link
      if (address === null) return yield notTried('form', what, NO_POP_UP)
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
    yield await this.member(what, answers, email)
  }

  /** One try, by whichever way the form stands there. */
  private async signUp(answers: PersonAnswers, presses: 1 | 2 = 1, isBot = false, as?: As): Promise<Tried> {
    const { standing, ports, subject } = this
    const fills = fillsOf(this.content, answers)
    if (standing.through === 'script') {
      if (ports.browser === null) return { isTried: false, reason: NEEDS_BROWSER }
      if (ports.browser.kind === 'visits') return this.byHand('desk', true, fills, presses)
      const forbidden = framingProblem(standing.sitePage, ports.browser.origin)
      if (forbidden !== null) return { isTried: false, reason: forbidden }
      const seen = await ports.browser.withScripts({
        address: standing.sitePage.address,
        spot: subject.spot.id,
        width: DESK_WIDTH,
        fills,
        presses,
      })
      if (!seen.isTried) return seen
      const shown = seen.shown ?? { ...NOTHING, heading: seen.isThere ? 'no answer' : 'no form on the page' }
      // An own page is where the script leads; it is looked at as it is.
      return {
        isTried: true,
        shown: await this.arrivedAt(shown),
        remarks: [],
        evidence: [evidence('response', JSON.stringify(shown))],
      }
    }
    const submission = this.submissionFor(standing, fills, isBot)
    if (submission === null)
      return { isTried: false, reason: 'The page’s encoding or the form’s address is none that can be sent here.' }
    const request = evidence('request', requestText(submission))
    try {
      const answer =
        presses === 1
          ? await ports.send(submission, as)
          : (await Promise.all([ports.send(submission, as), ports.send(submission, as)]))[1]!
      return {
        isTried: true,
        shown: shownOn(answer.html, answer.status, answer.address),
        remarks: [],
        evidence: [request, evidence('response', responseText(answer))],
      }
    } catch (error) {
      if (!(error instanceof NoAnswer)) throw error
      return { isTried: true, shown: { ...NOTHING, message: error.message }, remarks: [], evidence: [request] }
    }
  }

  private async arrivedAt(shown: Shown): Promise<Shown> {
    const joined = answerTo(this.content, this.outcome.joins)
    if (joined.show !== 'address' || !shown.address.startsWith('http') || shown.heading !== '') return shown
    try {
      const page = await this.ports.fetch(shown.address)
      return shownOn(page.html, page.status, page.address)
    } catch (error) {
      if (!(error instanceof NoAnswer)) throw error
      return { ...NOTHING, message: error.message }
    }
  }

  private submissionFor(
    { form, page, fetched }: Extract<Standing, { through: 'markup' }>,
    fills: readonly Fill[],
    isBot: boolean,
  ): Submission | null {
    const { touches } = filledIn(form, fills)
    if (isBot)
      for (const control of form.controls)
        if (!touches.has(control) && !isSubmitButton(control) && isTextLike(control))
          touches.set(control, { value: 'https://bot.example' })
    const button = buttonOf(form, `${this.subject.receiver}/join/${this.subject.spot.id}`)
    return submissionOf(
      form,
      button,
      touches,
      { page, address: fetched.address, encoding: fetched.encoding },
      `----askbox${this.ports.unique()}`,
    )
  }
}

const NEEDS_BROWSER = 'It needs a browser: install one beside the receiver, or rehearse from the workshop.'
/** Two fields whose answers go into one column: joined there, neither is what its question asked for. */
function sharedColumn({ fields }: FormContent): Failure | null {
  const filling = fields.filter(({ column }) => column !== null && column !== '')
  const second = filling.find(({ column }, at) => filling.findIndex((one) => one.column === column) < at)
  const first = filling.find(({ column }) => column === second?.column)
  return second === undefined || first === undefined
    ? null
    : failure('column-twice', 'form', {
        expected: 'Each answer has a column of its own.',
        happened: `“${first.label.trim() || first.key}” and “${second.label.trim() || second.key}” are joined in the column “${second.column}”.`,
        cause: 'Two fields of the form fill the same column.',
        mend: 'Let one of the two fill another column, and publish.',
      })
}

const BY_HAND_ONLY =
  'Whether the page’s own scripts stop it, or something lies over it, only a browser at the receiver sees, or a sign-up by hand.'
const NO_POP_UP = 'A pop-up is all script: without scripts nothing appears.'
const NOTHING: Shown = { status: 0, address: '', heading: '', message: '', errors: {}, kept: {} }

function isTextLike({
  tagName,
  attrs,
}: {
  tagName: string
  attrs: readonly { name: string; value: string }[]
}): boolean {
  const type = attrs.find(({ name }) => name === 'type')?.value.toLowerCase() ?? 'text'
  return tagName === 'textarea' || (tagName === 'input' && ['text', 'search', 'url', 'tel'].includes(type))
}

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

function requestText({ method, address, contentType, body }: Submission): string {
  return `${method.toUpperCase()} ${address}\nContent-Type: ${contentType}\n\n${new TextDecoder().decode(body)}`
}

function responseText({ status, address, location, html }: AnsweredPage): string {
  return `${location === null ? '' : `303 to ${location}\n`}${status} ${address}\n\n${html.slice(0, 3_000)}`
}
