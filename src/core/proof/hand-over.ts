import { failure } from './judge'
import type { Failure } from './proof'

/** What became of a made-up person at one place that their list is handed on to. */
export interface HandedOn {
  /** What the place is called. */
  name: string
  /**
   * `handed` where it cannot be looked up there; `to-confirm` where they were accepted and have yet to confirm there;
   * `not-allowed` where its owner has not said yes.
   */
  outcome: 'seen' | 'handed' | 'to-confirm' | 'not-allowed' | 'failed'
  /** What failed: an outcome of a service, or `not-seen` for who was taken and is not there as handed over. */
  why: string
  said: string
}

/** What a rehearsal calls the step to a place that a list goes on to. */
export const onwardStep = (name: string) => `On to ${name}`

/** Causes and mends, by what failed. */
const causes: Record<string, [cause: string, mend: string]> = {
  'key-not-sent': [
    'The connection goes to another address than its key was given for.',
    'Paste the key anew at the connection, if it is meant for there.',
  ],
  'key-refused': ['The key is wrong, or was withdrawn at the service.', 'Paste a new key at the connection.'],
  'not-allowed': ['The key may read, and not write.', 'Make a key there that may change lists, and paste it.'],
  'list-gone': ['The list is not there any more, or has another id.', 'Choose another of its lists to hand on to.'],
  refused: [
    'The service wants something else: a field was renamed there, or is required and not matched.',
    'Look at what goes along, and match the fields anew.',
  ],
  'opted-out': ['The service keeps this address as one that left.', 'Look there why everybody counts as having left.'],
  absent: ['There is nothing at that address of the service.', 'Look whether account and list are the right ones.'],
  later: [
    'The service is down, too slow, or takes no more for now.',
    'Wait, and rehearse again. Nobody is lost meanwhile.',
  ],
  unreachable: ['The service does not answer in time.', 'Wait, and rehearse again. Nobody is lost meanwhile.'],
  'no-json': [
    'Something else than the service answers: a proxy, or a page to sign in.',
    'Look whether its address is right.',
  ],
  signature: [
    'It does not take our signature: its secret is another, or its clock is wrong.',
    'Give it the secret once more, and look at its clock.',
  ],
  table: [
    'The folder for tables cannot be written, or its disk is full.',
    'Look at the room and the rights of the receiver’s data folder.',
  ],
  'not-seen': [
    'It says yes and keeps nothing, keeps it otherwise, or another list was matched.',
    'Look at that list there, and at what goes along.',
  ],
}

/** What is mended at the connection; all else at what goes along. */
const atConnection = new Set([
  'key-refused',
  'key-not-sent',
  'not-allowed',
  'absent',
  'unreachable',
  'later',
  'no-json',
  'signature',
])

export function handOverFailure({ name, why, said }: HandedOn): Failure {
  const [cause, mend] = causes[why] ?? ['The service did not take it.', 'Try the connection step by step.']
  return failure(`hand-over-${why}`.slice(0, 40), atConnection.has(why) ? 'connection' : 'hand-over', {
    expected: `The made-up person arrives in ${name}, with the right values.`,
    happened: said === '' ? `${name} did not have them.` : `${name}: ${said}`,
    cause,
    mend,
  })
}
