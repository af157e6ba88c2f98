import { takesMessages } from '#core/form'
import { evidence, failure, personFor } from '#core/proof'
import { answered } from './joining'
import { messageMail } from './message-mail'
import { notDone, signUp } from './sign-up'
import { type CaseSteps, judged } from './step'
import { addressOf, type CaseContext } from './way'

/** Somebody writes a message and leaves the box alone: it arrives, and they are on no list. */
export async function* message(way: CaseContext): CaseSteps {
  if (!takesMessages(way.content)) return
  const what = 'A message, the box left alone'
  const email = addressOf(way, 'writer')
  const answers = Object.fromEntries(
    Object.entries(personFor(way.content, email)).filter(
      ([key]) => way.content.fields.find((field) => field.key === key)?.kind !== 'join-box',
    ),
  )
  const tried = await signUp(way, answers)
  if (!tried.isTried) return yield notDone('form', what, tried)
  yield answered(way, what, { expects: 'message-sent', tried, answers })
  const { member, arrivals, messages } = await way.ports.member(email)
  yield judged(
    'list',
    'They are on no list',
    member === null && arrivals.length === 0 && messages.length === 1
      ? null
      : failure(
          'joined-unasked',
          'form',
          {
            expected: 'One message, and nobody who joins.',
            happened:
              member !== null || arrivals.length > 0
                ? 'Somebody joined who did not tick the box.'
                : messages.length === 0
                  ? 'No message was kept.'
                  : `${messages.length} messages were kept.`,
            cause: 'The box is ticked beforehand on the page, or the code there is of another form.',
            mend: 'Paste the code anew in its place.',
          },
          evidence('member', JSON.stringify({ member, arrivals, messages }, null, 1)),
        ),
    'A message was kept, and nobody joined.',
  )
  yield await messageMail(way, email)
}
