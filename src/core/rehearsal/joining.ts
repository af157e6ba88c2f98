import { type AnswerCase, answerTo, type FormContent, takesMessages } from '#core/form'
import { giftsOnAnswer } from '#core/mail'
import {
  expectedAnswer,
  expectedMember,
  type Failure,
  failure,
  handOverFailure,
  judgeAnswer,
  judgeMember,
  onwardStep,
  type PersonAnswers,
  personFor,
  type ViewerId,
} from '#core/proof'
import { fillsOf } from '#core/usable'
import { judgeTaken, mailWayOf } from './mail'
import { messageMail } from './message-mail'
import type { Visited } from './ports'
import { byHand, NEEDS_BROWSER, notDone, signUp, type Tried } from './sign-up'
import { type CaseStep, type CaseSteps, failed, judged, notTried, passed, pictured } from './step'
import { addressOf, isOurs, type CaseContext } from './way'

/** Somebody signs up: the answer is read, and the member looked up. */
export async function* joining(
  way: CaseContext,
  who: string,
  what: string,
  {
    changes = {},
    presses = 1,
    isByHand = false,
  }: { changes?: PersonAnswers; presses?: 1 | 2; isByHand?: boolean } = {},
): CaseSteps {
  const email = addressOf(way, who)
  const answers = { ...personFor(way.content, email), ...changes }
  const takesGift = who === 'first' && handsOverOnAnswer(way)
  const tried: Tried & { visited?: Visited } =
    isByHand && way.ports.browser?.kind === 'visits'
      ? await byHand({ way, viewer: 'desk', fills: fillsOf(way.content, answers), presses, takesGift })
      : await signUp(way, answers, { presses })
  if (!tried.isTried) return yield notDone('form', what, tried)
  // By a request alone, nobody has filled anything in.
  if (who === 'first' && (way.ports.browser?.kind === 'visits' || isOurs(way)))
    yield pictured(
      passed('form', what, ['Every question was answered, and the form sent.', ...tried.remarks].join(' ')),
      tried.look ?? null,
    )
  yield answered(way, what, { expects: way.outcome.joins, tried, answers })
  if (takesGift && tried.visited === undefined) yield notTried('answer', 'The gift on the answer', NEEDS_BROWSER)
  else if (takesGift) {
    const gift = judgeTaken(mailWayOf(way)!, tried.visited?.gift)
    yield judged('answer', 'The gift on the answer', gift.problem, gift.seen)
  }
  yield await member(way, what, answers, email)
  if (who === 'first' && takesMessages(way.content)) yield await messageMail(way, email)
  if (who === 'first') yield* onward(way, email)
}

/** Whether the answer of ours to who joins at once hands the gift over. */
function handsOverOnAnswer(way: CaseContext): boolean {
  const { mail } = way.subject
  const isWords = answerTo(way.content, 'joined').show === 'message'
  return mail !== null && way.outcome.joins === 'joined' && isWords && giftsOnAnswer(mail)
}

/** Somebody signs up by a hand in a browser of some kind, and each step of it is told. */
export async function* joiningByHand(way: CaseContext, viewer: ViewerId, who: string, what: string): CaseSteps {
  const email = addressOf(way, who)
  const answers = personFor(way.content, email)
  const tried = await byHand({ way, viewer, fills: fillsOf(way.content, answers), presses: 1 })
  if (!tried.isTried) return yield notDone('form', what, tried)
  yield pictured(passed('form', what, ['Filled in, and sent.', ...tried.remarks].join(' ')), tried.look ?? null)
  yield answered(way, what, { expects: way.outcome.joins, tried, answers })
  yield await member(way, what, answers, email)
}

/** Where their list goes on to: proven only where the service itself was asked, and had them. */
async function* onward({ ports }: CaseContext, email: string): CaseSteps {
  for (const handed of (await ports.handOn?.(email)) ?? []) {
    const what = onwardStep(handed.name)
    if (handed.outcome === 'seen') yield passed('list', what, handed.said)
    else if (handed.outcome === 'failed') yield failed('list', what, handOverFailure(handed))
    else yield notTried('list', what, handed.said)
  }
}

export function answered(
  way: CaseContext,
  what: string,
  {
    expects: one,
    tried: { shown, evidence: more },
    answers,
  }: { expects: AnswerCase; tried: Tried & { isTried: true }; answers: PersonAnswers },
): CaseStep {
  const expected = expectedAnswer(way.content, one, answers)
  return judged(
    'answer',
    what,
    judgeAnswer(expected, shown, one, more),
    expected.kind === 'own-page' ? `${shown.address} opened.` : `“${shown.heading || shown.message}”`,
  )
}

export async function member(way: CaseContext, what: string, answers: PersonAnswers, email: string): Promise<CaseStep> {
  const status = way.outcome.joins === 'joined' ? 'confirmed' : 'waiting'
  const shared = sharedColumn(way.content)
  if (shared !== null) return failed('list', what, shared)
  const expected = expectedMember(way.content, answers, email, status)
  const seen = await way.ports.member(email)
  const { list } = way.subject
  return judged(
    'list',
    what,
    judgeMember(expected, seen, list, way.content),
    `In “${list?.name}”, ${status === 'waiting' ? 'waiting to confirm' : status}${Object.keys(expected.values).length > 0 ? `, with ${Object.keys(expected.values).join(', ')}` : ''}${expected.tags.length > 0 ? `, tagged ${expected.tags.join(', ')}` : ''}.`,
  )
}

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
