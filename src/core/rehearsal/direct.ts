import { type Failure, failure, personFor, type Step } from '#core/proof'
import { formFacts } from './form-facts'
import { lookOf, obstacleMet, shownTo } from './visit-findings'
import { directFormOn } from './form-on-page'
import type { Ports } from './ports'
import { NEEDS_BROWSER } from './sign-up'
import { type CaseStep, failed, judged, notTried, passed, pictured } from './step'
import type { RehearsalSubject } from './subject'
import { visitOf } from './visit'

/**
 * A form that posts straight to a service, as far as one can see from outside: found on its page, filled in and sent by a
 * visitor under the address that its owner said yes to, and the service's own answer read. Nothing of ours is between.
 */
export async function* directly(subject: RehearsalSubject, ports: Ports): AsyncGenerator<Omit<Step, 'ms'>> {
  const { spot, versions, receiver, directAs } = subject
  const { content } = versions.at(-1)!
  const facts = formFacts(content, spot, receiver)
  const { host } = new URL(facts.action)
  const by = (one: 'page' | 'first', step: CaseStep) => ({ case: one, ...step })
  const standing = await directFormOn(subject, ports)
  if ('failure' in standing) return yield by('page', failed(standing.station, standing.what, standing.failure))
  yield by('page', passed('spot', 'The page can be reached', `${standing.address} answers.`))
  yield by('page', passed('form', 'The form is there', `It posts straight to ${host}.`))
  const what = 'Somebody new, in a browser'
  const untried =
    directAs === undefined
      ? `Somebody made up would stay in the list at ${host}: it is tried only after you said yes.`
      : content.direct?.method === 'get'
        ? 'It is sent in an address (GET), which is not followed here: sign up by hand.'
        : ports.browser?.kind !== 'visits'
          ? NEEDS_BROWSER
          : null
  if (untried !== null || ports.browser?.kind !== 'visits')
    return yield by('first', notTried('form', what, untried ?? ''))
  const fills = facts.fillsFor(personFor(content, directAs!))
  const wish = { address: standing.address, viewer: 'desk' as const, fills, presses: 1 as const }
  const seen = await ports.browser.visit({
    ...visitOf(spot, receiver, content, wish),
    action: facts.action,
    trap: facts.trap ?? '',
  })
  if (!seen.isTried) return yield by('first', notTried('form', what, seen.reason))
  const look = lookOf(seen, 'desk')
  const met = obstacleMet(seen, { spot, content, others: subject.others })
  if (met !== null) return yield by('first', pictured(failed(met.station, what, met.failure), look))
  yield by(
    'first',
    pictured(passed('form', what, [`Filled in, and sent to ${host}.`, ...seen.remarks].join(' ')), look),
  )
  const shown = shownTo(seen, standing.address)
  const said = shown === null ? '' : [shown.heading, shown.message].filter((words) => words !== '').join(': ')
  yield by(
    'first',
    judged(
      'answer',
      `The answer of ${host}`,
      shown === null || shown.status >= 400 || shown.looks !== undefined
        ? refused(host, shown?.status ?? 0, said)
        : null,
      said === '' ? 'It answered, and says nothing that can be read here.' : `“${said.slice(0, 400)}”`,
    ),
  )
  yield by(
    'first',
    notTried(
      'list',
      `In the list at ${host}`,
      `Only ${host} knows. Look for ${directAs} there, and take it off once you saw it.`,
    ),
  )
}

function refused(host: string, status: number, said: string): Failure {
  return failure('service-refused', 'form', {
    expected: `${host} takes the sign-up and says so.`,
    happened: `It answered ${status === 0 ? 'nothing' : status}${said === '' ? '' : `: “${said.slice(0, 400)}”`}.`,
    cause:
      'The service does not take this address, its form was changed there, or it asks for more than this form sends.',
    mend: `Sign up on the service’s own form. If that works, read its code anew; if the address is what it refuses, try with one of your own.`,
  })
}
