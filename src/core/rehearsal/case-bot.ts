import { notDone, signUp } from './sign-up'
import { answered } from './joining'
import { evidence, failure, personFor } from '#core/proof'
import { type CaseSteps, judged, notTried } from './step'
import { type CaseContext, addressOf } from './way'

export async function* bot(way: CaseContext): CaseSteps {
  const what = 'A bot that fills everything'
  if (way.standing.through === 'script')
    return yield notTried('form', what, 'Bots read markup; with script code there is no form in it to fill.')
  const email = addressOf(way, 'bot')
  const answers = personFor(way.content, email)
  const tried = await signUp(way, answers, { isBot: true })
  if (!tried.isTried) return yield notDone('form', what, tried)
  yield answered(way, what, { expects: way.outcome.bot, tried, answers })
  const { member, arrivals } = await way.ports.member(email)
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
