import { isMailProvider } from '#core/email'
import { answerTo } from '#core/form'
import { domainOf, giftsOnAnswer, messagesInUse } from '#core/mail'
import {
  expectedMember,
  type Failure,
  failure,
  linkIn,
  type PersonAnswers,
  personFor,
  type ReceivedMail,
  type Shown,
} from '#core/proof'
import { answered } from './joining'
import {
  awaitMail,
  type AwaitedMail,
  judgeGift,
  judgeLink,
  judgeTaken,
  mailWayOf,
  type MailWay,
  saysAnswer,
  statusProblem,
} from './mail'
import type { MailRead } from './ports'
import { openLink, press, pressFailure, pressInMail, shownAfter } from './pressing'
import { notDone, signUp } from './sign-up'
import { type CaseStep, type CaseSteps, failed, judged, notTried, passed, pictured } from './step'
import { addressOf, type CaseContext } from './way'

/**
 * On through the mail, by the same hand: confirmed, welcomed, given the gift, left and put back; then somebody who joins
 * again while waiting, and whose link is too old. Whoever signed up first goes on; else somebody signs up for it.
 */
export async function* mail(way: CaseContext): CaseSteps {
  const { mail: settings } = way.subject
  const mailWay = mailWayOf(way)
  if (settings === null || mailWay === null || messagesInUse(settings).length === 0) return
  const domain = domainOf(settings.senderAddress.trim().toLowerCase())
  if (isMailProvider(domain))
    yield notTried(
      'mail',
      'The sender',
      `${settings.senderAddress.trim()} is a mailbox at ${domain}. Its provider tells others to refuse mail in its name that comes from elsewhere, so much of this will not arrive. Use an address on your site’s own domain.`,
    )
  const isFirst = way.hasFirst === true && (await way.ports.member(addressOf(way, 'first'))).member !== null
  const email = addressOf(way, isFirst ? 'first' : 'mail')
  const answers = personFor(way.content, email)
  const tried = isFirst ? null : await signUp(way, answers)
  if (tried?.isTried === false) return yield notDone('mail', 'Through the mail', tried)
  const reader = new Reader(way, mailWay, { email, answers })
  const asksToConfirm = way.outcome.joins === 'confirm-first'
  if (asksToConfirm) {
    if (!(yield* confirming(reader))) return
  } else if (tried?.isTried === true) yield* giftOnAnswer(mailWay, tried.shown)
  if (settings.messages.welcome.isOn && !(yield* welcomed(reader))) return
  if (asksToConfirm) yield* waiting(way, mailWay)
}

/** A made-up person who reads their mails one after the other. */
class Reader {
  /** How many mails they have read. */
  private known = 0

  constructor(
    readonly way: CaseContext,
    readonly mailWay: MailWay,
    readonly person: { email: string; answers: PersonAnswers },
  ) {}

  async next(kind: Parameters<typeof awaitMail>[2]): Promise<AwaitedMail> {
    const { email, answers } = this.person
    // Whatever field fills that column.
    const firstName = expectedMember(this.way.content, answers, email).values['first-name'] ?? ''
    const awaited = await awaitMail(this.mailWay, email, kind, { known: this.known, firstName })
    if (awaited.ok) this.known += 1
    return awaited
  }

  async status() {
    return (await this.way.ports.member(this.person.email)).member?.status ?? null
  }
}

/** Whether there is anything to go on with. */
type Stretch = AsyncGenerator<CaseStep, boolean>

async function* confirming(reader: Reader): Stretch {
  const { way, mailWay } = reader
  const first = await reader.next('confirmation')
  if (!first.ok) {
    yield notArrived('The mail to confirm', first)
    return false
  }
  yield passed('mail', 'The mail to confirm', first.seen)
  const link = linkIn(first.mail, mailWay.publicUrl, 'confirm')!
  const opened = await openLink(mailWay, link)
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
      : statusProblem('waiting', await reader.status(), 'Opening the link was taken for pressing its button.'),
    'It shows a button, and nothing has changed yet.',
  )
  if (opened.form === null) return false
  const takesGift = giftsOnAnswer(mailWay.settings) && answerTo(way.content, 'confirmed').show === 'message'
  const read = await pressInMail(mailWay, first.mail, link, ['button', ...(takesGift ? (['gift'] as const) : [])])
  if (read.isTried) {
    const [onLink, onButton, onGift] = read.presses
    const confirmed = onButton === undefined || onButton.obstacle !== null ? null : shownAfter(onButton)
    yield seenBy(
      read,
      judged(
        'mail',
        'The button pressed',
        pressFailure(onLink, 'The mail’s button') ??
          pressFailure(onButton, 'The page’s button') ??
          saysAnswer(way.content, 'confirmed', confirmed!) ??
          statusProblem('confirmed', await reader.status(), 'The press did not reach the list.'),
        `“${confirmed?.heading || confirmed?.address}”, and on the list.`,
      ),
    )
    if (takesGift) {
      const gift = judgeTaken(mailWay, onGift)
      yield judged('answer', 'The gift on the answer', gift.problem, gift.seen)
    }
  } else {
    const confirmed = await press(mailWay, opened.form)
    yield byRequest(
      'The button pressed',
      saysAnswer(way.content, 'confirmed', confirmed) ??
        statusProblem('confirmed', await reader.status(), 'The press did not reach the list.'),
      read.reason,
    )
    yield* giftOnAnswer(mailWay, confirmed)
  }
  const used = await press(mailWay, opened.form)
  yield judged(
    'mail',
    'The link used twice',
    saysAnswer(way.content, 'confirmed', used),
    'It says the same, and nothing happens twice.',
  )
  return true
}

/** Somebody who joins again while waiting, and waits for too long. */
async function* waiting(way: CaseContext, mailWay: MailWay): CaseSteps {
  const email = addressOf(way, 'late')
  const reader = new Reader(way, mailWay, { email, answers: personFor(way.content, email) })
  const tried = await signUp(way, reader.person.answers)
  if (!tried.isTried) return
  const first = await reader.next('confirmation')
  if (!first.ok) return yield notArrived('The mail to somebody else', first)
  // Spelt otherwise, because the very same within half a minute would be a double press.
  const answers = { ...reader.person.answers, ...personFor(way.content, email.toUpperCase()) }
  const again = await signUp(way, answers)
  if (again.isTried)
    yield answered(way, 'Joined again while waiting', { expects: way.outcome.again, tried: again, answers })
  const second = await reader.next('confirmation')
  yield second.ok ? passed('mail', 'The mail once more', second.seen) : notArrived('The mail once more', second)
  if (!second.ok) return
  await way.ports.expire(email)
  const { shown } = await openLink(mailWay, linkIn(first.mail, mailWay.publicUrl, 'confirm')!)
  yield judged(
    'mail',
    `A link that is older than ${mailWay.settings.waitingDays} days`,
    saysAnswer(way.content, 'link-expired', shown) ??
      statusProblem('removed', await reader.status(), 'The link still works.'),
    `“${shown.heading || shown.address}”`,
  )
}

async function* welcomed(reader: Reader): Stretch {
  const { mailWay } = reader
  const welcome = await reader.next('welcome')
  if (!welcome.ok) {
    yield notArrived('The welcome', welcome)
    return false
  }
  yield passed('mail', 'The welcome', welcome.seen)
  yield* giftOfWelcome(mailWay, welcome.mail)
  const oneClick = /<([^>\s]{1,500})>/.exec(welcome.mail.headers['list-unsubscribe'] ?? '')?.[1]
  const leave = linkIn(welcome.mail, mailWay.publicUrl, 'leave')
  if (leave !== null && mailWay.ports.browser?.kind === 'visits') {
    const left = yield* leaving(reader, welcome.mail, leave)
    if (left !== 'back') return left === 'left'
  }
  if (oneClick === undefined) return true
  await press(mailWay, { action: oneClick, body: 'List-Unsubscribe=One-Click' })
  yield judged(
    'mail',
    'Left by one press in the mail program',
    statusProblem('left', await reader.status(), 'The post of RFC 8058 did not reach the list.'),
    'Off the list.',
  )
  // By a browser, the notice was read before.
  if (!mailWay.settings.messages.leaving.isOn || mailWay.ports.browser?.kind === 'visits') return true
  const notice = await reader.next('leaving')
  yield notice.ok ? passed('mail', 'The notice of leaving', notice.seen) : notArrived('The notice of leaving', notice)
  return notice.ok
}

async function* giftOfWelcome(mailWay: MailWay, welcome: ReceivedMail): CaseSteps {
  const judgedGift = await judgeGift(mailWay, welcome)
  const link = linkIn(welcome, mailWay.publicUrl, 'gift')
  if (judgedGift === null) return
  if (judgedGift.problem !== null || link === null || mailWay.settings.gift?.inWelcome === 'attachment')
    return yield judged('mail', 'The gift', judgedGift.problem, judgedGift.seen)
  const read = await pressInMail(mailWay, welcome, link, ['button'])
  if (!read.isTried) return yield byRequest('The gift', null, read.reason)
  // A gift that may be taken so many times has a button behind its link.
  const taken = judgeTaken(
    mailWay,
    read.presses[0]?.file === null ? (read.presses[1] ?? read.presses[0]) : read.presses[0],
  )
  yield seenBy(read, judged('mail', 'The gift', taken.problem, taken.seen))
}

/** Left by the mail's link, told of it, and put back by one press where there is one; resolves with where they are then. */
async function* leaving(
  reader: Reader,
  welcome: ReceivedMail,
  link: string,
): AsyncGenerator<CaseStep, 'back' | 'left' | 'stopped'> {
  const { way, mailWay } = reader
  const read = await pressInMail(mailWay, welcome, link, ['button'])
  if (!read.isTried) {
    yield notTried('mail', LEFT_BY_LINK, read.reason)
    return 'back'
  }
  const [onLink, onButton] = read.presses
  const shown = onButton === undefined || onButton.obstacle !== null ? null : shownAfter(onButton)
  yield seenBy(
    read,
    judged(
      'mail',
      LEFT_BY_LINK,
      pressFailure(onLink, 'The mail’s link to leave') ??
        pressFailure(onButton, 'The page’s button') ??
        saysAnswer(way.content, 'left', shown!) ??
        statusProblem('left', await reader.status(), 'The press did not reach the list.'),
      `“${shown?.heading || shown?.address}”, and off the list.`,
    ),
  )
  const isToldOf = mailWay.settings.messages.leaving.isOn
  const notice = isToldOf ? await reader.next('leaving') : null
  if (notice !== null)
    yield notice.ok ? passed('mail', 'The notice of leaving', notice.seen) : notArrived('The notice of leaving', notice)
  if (notice?.ok === false) return 'stopped'
  const back = notice === null ? null : linkIn(notice.mail, mailWay.publicUrl, 'leave')
  const isOffered = answerTo(way.content, 'left').show === 'message'
  if (back === null && !isOffered) {
    yield notTried(
      'mail',
      'Left by one press in the mail program',
      'They are off the list already, and no mail leads back.',
    )
    return 'left'
  }
  const returning = await pressInMail(mailWay, notice?.ok ? notice.mail : welcome, back ?? link, ['button'])
  if (!returning.isTried) {
    yield notTried('mail', PUT_BACK, returning.reason)
    return 'left'
  }
  yield seenBy(
    returning,
    judged(
      'mail',
      PUT_BACK,
      pressFailure(returning.presses[0], 'The mail’s link back') ??
        pressFailure(returning.presses[1], 'The page’s button') ??
        statusProblem('confirmed', await reader.status(), 'The press did not reach the list.'),
      'On the list again.',
    ),
  )
  return 'back'
}

const LEFT_BY_LINK = 'Left by the link in the mail'
const PUT_BACK = 'Put back by one press'

/** A press that a request alone made: what it broke is a failure; that a browser lets it happen is not proven by it. */
function byRequest(
  what: string,
  problem: Failure | null,
  reason: string,
  station: CaseStep['station'] = 'mail',
): CaseStep {
  return problem === null
    ? notTried(station, what, `By a request it goes well; pressed in a browser it was not. ${reason}`)
    : judged(station, what, problem, '')
}

/** With the picture of what was seen at last. */
function seenBy({ picture, field }: Pick<MailRead, 'picture' | 'field'>, step: CaseStep): CaseStep {
  return pictured(step, picture === null || picture.length > 60_000 ? null : { viewer: 'desk', jpeg: picture, field })
}

function notArrived(what: string, awaited: AwaitedMail & { ok: false }): CaseStep {
  return 'notYet' in awaited
    ? { ...notTried('mail', what, awaited.notYet), isAwaited: true }
    : failed('mail', what, awaited.problem)
}

/** What is handed over on the page that answers, taken as its reader would. */
async function* giftOnAnswer(way: MailWay, shown: Shown): CaseSteps {
  // The owner's own page hands nothing of ours over.
  if (!giftsOnAnswer(way.settings) || shown.status !== 200 || !shown.address.startsWith(way.publicUrl)) return
  const gift = await judgeLink(way, shown.gift ?? null, 'The answer has no link to it.')
  yield byRequest('The gift on the answer', gift.problem, 'With “First time” it is pressed.', 'answer')
}
