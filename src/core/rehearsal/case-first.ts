import { failure } from '#core/proof'
import { joining } from './joining'
import { lookAtFile } from './page'
import { NoAnswer } from './ports'
import { type CaseStep, type CaseSteps, failed, notTried, passed } from './step'
import { isOurs, type CaseContext, wayOf } from './way'

export async function* first(way: CaseContext): CaseSteps {
  const { browser } = way.ports
  // A page of ours has no scripts of others, and nothing over its form.
  if (browser?.kind !== 'visits' && !isOurs(way))
    yield notTried('form', 'Filled in by a hand, with the page’s own scripts', BY_HAND_ONLY)
  if (way.content.guard?.puzzle) yield await puzzle(way)
  yield* joining(way, 'first', browser?.kind === 'visits' ? 'Somebody new, in a browser' : 'Somebody new', {
    isByHand: true,
  })
  if (way.subject.spot.kind !== 'landing') return
  const what = 'Somebody new, by the page as a file'
  const file = await lookAtFile(way.subject, way.ports)
  if ('code' in file) return yield failed('form', what, file)
  yield* joining(wayOf(way.subject, way.version, file, way.ports), 'file', what)
}

/** Made-up people are spared the puzzle; what solves it for visitors has to be there all the same. */
async function puzzle(way: CaseContext): Promise<CaseStep> {
  const what = 'The puzzle of its guard'
  const address = `${way.subject.receiver}/puzzle.js`
  let happened: string
  try {
    const { status, html } = await way.ports.fetch(address)
    if (status === 200 && !html.trimStart().startsWith('<'))
      return passed('form', what, 'The script that solves it for visitors is handed out.')
    happened = `${address} answers ${status}${status === 200 ? ', with a page in place of a script' : ''}.`
  } catch (error) {
    if (!(error instanceof NoAnswer)) throw error
    happened = error.message
  }
  return failed(
    'form',
    what,
    failure('puzzle-missing', 'settings', {
      expected: `${address} hands out the script that solves the puzzle.`,
      happened,
      cause: 'Something before the receiver keeps the script back.',
      mend: 'Let that address through, or switch the puzzle off in the form’s guard.',
    }),
  )
}

const BY_HAND_ONLY =
  'Whether the page’s own scripts stop it, or something lies over it, only a browser at the receiver sees, or a sign-up by hand.'
