import { evidence, failure, personFor } from '#core/proof'
import { answered } from './joining'
import { notDone, signUp } from './sign-up'
import { type CaseSteps, judged } from './step'
import { addressOf, type CaseContext } from './way'

export async function* again(way: CaseContext): CaseSteps {
  const email = addressOf(way, 'again')
  const once = await signUp(way, personFor(way.content, email))
  if (!once.isTried) return yield notDone('form', 'The same address again', once)
  const answers = personFor(way.content, `  ${email.toUpperCase()} `)
  const tried = await signUp(way, answers)
  if (!tried.isTried) return yield notDone('form', 'The same address again', tried)
  yield answered(way, 'The same address, in capitals and with spaces', { expects: way.outcome.again, tried, answers })
  const { arrivals } = await way.ports.member(email)
  const verdicts = arrivals.map(({ verdict }) => verdict)
  const wanted = way.outcome.joins === 'joined' ? ['joined', 'already-on-list'] : ['confirm-first', 'already-waiting']
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
