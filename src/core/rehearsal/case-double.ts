import { failure } from '#core/proof'
import { joining } from './joining'
import { type CaseSteps, judged } from './step'
import { addressOf, type CaseContext } from './way'

export async function* double(way: CaseContext): CaseSteps {
  yield* joining(way, 'double', 'The button pressed twice', { presses: 2 })
  const { arrivals } = await way.ports.member(addressOf(way, 'double'))
  if (arrivals.length === 0) return
  yield judged(
    'list',
    'One sign-up of the two',
    arrivals.length === 1
      ? null
      : failure('counted-twice', 'settings', {
          expected: 'One sign-up.',
          happened: `${arrivals.length}: ${arrivals.map(({ verdict }) => verdict).join(', ')}.`,
          cause: 'The second press reached the receiver as another sign-up.',
          mend: 'Nothing is lost: there is one member. Tell whoever looks after the receiver.',
        }),
    'Counted once.',
  )
}
