import { isMailProvider } from '#core/email'
import { domainOf, giftsOnAnswer, messagesInUse } from '#core/mail'
import { expectedMember, failure, linkIn, type PersonAnswers, type Shown, personFor } from '#core/proof'

import { answered } from './joining'
import {
  awaitMail,
  type AwaitedMail,
  judgeGift,
  judgeLink,
  type MailWay,
  openLink,
  press,
  saysAnswer,
  statusProblem,
} from './mail'
import { notDone, signUp } from './sign-up'
import { type CaseStep, type CaseSteps, failed, judged, notTried, passed } from './step'
import { type CaseContext, addressOf } from './way'

/** On through the mail: confirmed, welcomed, given the gift, left; then a link used up, and one that is too old. */
export async function* mail(way: CaseContext): CaseSteps {
  const { mail: settings, list, receiver } = way.subject
  if (settings === null || list === null || messagesInUse(settings).length === 0) return
  const domain = domainOf(settings.senderAddress.trim().toLowerCase())
  if (isMailProvider(domain))
    yield notTried(
      'mail',
      'The sender',
      `${settings.senderAddress.trim()} is a mailbox at ${domain}. Its provider tells others to refuse mail in its name that comes from elsewhere, so much of this will not arrive. Use an address on your site’s own domain.`,
    )
  const mailWay: MailWay = { ports: way.ports, settings, list, content: way.content, publicUrl: receiver }
  const email = addressOf(way, 'mail')
  const answers = personFor(way.content, email)
  const tried = await signUp(way, answers)
  if (!tried.isTried) return yield notDone('mail', 'Through the mail', tried)
  const reader = new Reader(way, mailWay, { email, answers })
  const asksToConfirm = way.outcome.joins === 'confirm-first'
  if (!asksToConfirm) yield* giftOnAnswer(mailWay, tried.shown)
  else if (!(yield* confirming(reader))) return
  if (settings.messages.welcome.isOn && !(yield* welcomed(reader))) return
  if (asksToConfirm) yield* tooLate(way, mailWay)
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
  const opened = await openLink(mailWay, linkIn(first.mail, mailWay.publicUrl, 'confirm')!)
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
  if (!(yield* joinedAgain(reader))) return false
  const confirmed = await press(mailWay, opened.form)
  yield judged(
    'mail',
    'The button pressed',
    saysAnswer(way.content, 'confirmed', confirmed) ??
      statusProblem('confirmed', await reader.status(), 'The press did not reach the list.'),
    `“${confirmed.heading || confirmed.address}”, and on the list.`,
  )
  yield* giftOnAnswer(mailWay, confirmed)
  const used = await press(mailWay, opened.form)
  yield judged(
    'mail',
    'The link used twice',
    saysAnswer(way.content, 'confirmed', used),
    'It says the same, and nothing happens twice.',
  )
  return true
}

async function* joinedAgain(reader: Reader): Stretch {
  const { way, person } = reader
  // Spelt otherwise, because the very same within half a minute would be a double press.
  const answers = { ...person.answers, ...personFor(way.content, person.email.toUpperCase()) }
  const tried = await signUp(way, answers)
  if (tried.isTried) yield answered(way, 'Joined again while waiting', { expects: way.outcome.again, tried, answers })
  const second = await reader.next('confirmation')
  yield second.ok ? passed('mail', 'The mail once more', second.seen) : notArrived('The mail once more', second)
  return second.ok
}

async function* welcomed(reader: Reader): Stretch {
  const { mailWay } = reader
  const welcome = await reader.next('welcome')
  if (!welcome.ok) {
    yield notArrived('The welcome', welcome)
    return false
  }
  yield passed('mail', 'The welcome', welcome.seen)
  const gift = await judgeGift(mailWay, welcome.mail)
  if (gift !== null) yield judged('mail', 'The gift', gift.problem, gift.seen)
  const oneClick = /<([^>\s]{1,500})>/.exec(welcome.mail.headers['list-unsubscribe'] ?? '')?.[1]
  if (oneClick === undefined) return true
  await press(mailWay, { action: oneClick, body: 'List-Unsubscribe=One-Click' })
  yield judged(
    'mail',
    'Left by one press in the mail program',
    statusProblem('left', await reader.status(), 'The post of RFC 8058 did not reach the list.'),
    'Off the list.',
  )
  if (!mailWay.settings.messages.leaving.isOn) return true
  const leaving = await reader.next('leaving')
  yield leaving.ok
    ? passed('mail', 'The notice of leaving', leaving.seen)
    : notArrived('The notice of leaving', leaving)
  return leaving.ok
}

function notArrived(what: string, awaited: AwaitedMail & { ok: false }): CaseStep {
  return 'notYet' in awaited
    ? { ...notTried('mail', what, awaited.notYet), isAwaited: true }
    : failed('mail', what, awaited.problem)
}

/** What is handed over on the page that answers, taken as its reader would. */
async function* giftOnAnswer(way: MailWay, shown: Shown): CaseSteps {
  // The owner's own page hands nothing of ours over; nor does an answer in the form's place.
  if (!giftsOnAnswer(way.settings) || shown.status !== 200 || !shown.address.startsWith(way.publicUrl)) return
  const gift = await judgeLink(way, shown.gift ?? null, 'The answer has no link to it.')
  yield judged('answer', 'The gift on the answer', gift.problem, gift.seen)
}

async function* tooLate(way: CaseContext, mailWay: MailWay): CaseSteps {
  const email = addressOf(way, 'late')
  const answers = personFor(way.content, email)
  const tried = await signUp(way, answers)
  if (!tried.isTried) return
  const { received } = await way.ports.mails(email)
  for (let looks = 0; looks < 100 && received.length === 0; looks += 1) {
    await way.ports.pause(100)
    received.push(...(await way.ports.mails(email)).received)
  }
  const link = received[0] === undefined ? null : linkIn(received[0], mailWay.publicUrl, 'confirm')
  if (link === null) return
  await way.ports.expire(email)
  const { shown } = await openLink(mailWay, link)
  yield judged(
    'mail',
    `A link that is older than ${mailWay.settings.waitingDays} days`,
    saysAnswer(way.content, 'link-expired', shown) ??
      statusProblem('removed', (await way.ports.member(email)).member?.status ?? null, 'The link still works.'),
    `“${shown.heading || shown.address}”`,
  )
}
