import { onwardStep, type Proof } from '#core/proof'
import { refusedThere } from './causes'
import type { LineSubject, Onward, Signal, State } from './signal'

/** The state of each place that a list goes on to: proven only by a rehearsal in which the service itself was asked. */
export function onwardStates(
  onward: readonly Onward[],
  proofs: readonly Proof[],
): { name: string; signal: Signal; reason: string }[] {
  return onward.map(({ name, isPaused, trouble, refused }) => {
    if (isPaused) return { name, signal: 'empty', reason: 'Paused: nobody goes there for now.' }
    if (trouble !== null) return { name, signal: 'needs-work', reason: trouble }
    const steps = proofs
      .toSorted((one, other) => (one.at < other.at ? 1 : -1))
      .flatMap(({ at, steps }) => {
        const step = steps.find(({ station, what }) => station === 'list' && what === onwardStep(name))
        return step === undefined ? [] : [{ ...step, at }]
      })
    const [step] = steps
    // What happens to real people counts for more than what a made-up one went through before.
    if (refused !== undefined && (step === undefined || refused.at > step.at))
      return { name, signal: 'needs-work', reason: refusedThere(refused.count, step?.verdict === 'passed') }
    if (step === undefined) return { name, signal: 'ready', reason: 'No rehearsal has gone there yet.' }
    const signal = step.verdict === 'passed' ? 'proven' : step.verdict === 'failed' ? 'needs-work' : 'ready'
    return { name, signal, reason: step.seen }
  })
}

/** A list is as good as where it goes on to. */
export function carriedOn(state: State, { onward = [], proofs }: LineSubject): State {
  const going = onward.filter(({ isPaused }) => !isPaused)
  const stopped = going.find(({ trouble }) => trouble !== null)
  if (stopped !== undefined) return ['needs-work', `On to ${stopped.name}: ${stopped.trouble}`]
  const states = onwardStates(
    going.filter((one) => one.refused !== undefined),
    proofs,
  )
  const refused = states.find(({ signal }) => signal === 'needs-work')
  if (refused !== undefined) return ['needs-work', `On to ${refused.name}: ${refused.reason}`]
  if (going.length === 0 || state[0] === 'needs-work') return state
  return [state[0], `${state[1]} It goes on to ${going.map(({ name }) => name).join(' and ')}.`]
}
