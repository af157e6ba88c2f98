import { closedWords } from '#core/form'
import { evidence, failure, personFor } from '#core/proof'
import { type As, NoAnswer } from './ports'
import { notDone, signUp } from './sign-up'
import { type CaseSteps, judged } from './step'
import { isBroughtByScript } from '#core/spot'
import { addressOf, type CaseContext } from './way'

export async function* closed(way: CaseContext): CaseSteps {
  for (const as of ['paused', 'retired'] as const) {
    const what = `While ${as}`
    if (way.standing.through === 'script') {
      const html = await handedOut(way, as)
      // A form by rule, and a pop-up, come by themselves: nobody is told of one that does not.
      const words = as === 'paused' && !isBroughtByScript(way.subject.spot) ? closedWords(way.content, as) : null
      const isClosed =
        html.includes(`"state":"${as}"`) &&
        !html.includes('/join/') &&
        (words === null ? !html.includes('"form"') : html.includes(JSON.stringify(words)))
      yield judged(
        'answer',
        what,
        isClosed
          ? null
          : failure(
              'not-closed',
              'spot',
              {
                expected:
                  words === null
                    ? 'The script gets no form, and leaves nothing on the page.'
                    : `The script puts “${words}” in the form’s place.`,
                happened: html.includes('/join/') ? 'It gets a form.' : 'It gets something else.',
                cause: 'Something between the receiver and the page keeps an older copy.',
                mend: 'Wait until that copy ends, and rehearse again.',
              },
              evidence('response', html),
            ),
        words === null ? 'The script gets no form to show.' : `“${words}”, in the form’s place.`,
      )
      continue
    }
    const email = addressOf(way, as)
    const tried = await signUp(way, personFor(way.content, email), { as })
    if (!tried.isTried) return yield notDone('answer', what, tried)
    const words = closedWords(way.content, as)
    const { member } = await way.ports.member(email)
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
async function handedOut(way: CaseContext, as: As): Promise<string> {
  try {
    return (await way.ports.fetch(`${way.subject.receiver}/form/${way.subject.spot.id}.json`, as)).html
  } catch (error) {
    if (!(error instanceof NoAnswer)) throw error
    return error.message
  }
}
