import { type Failure, failure, personFor, type ViewerId, viewerOf } from '#core/proof'
import { fillsOf } from '#core/usable'
import { lookOf, obstacleMet } from './visit-findings'
import type { Browsed, Visited } from './ports'
import { NEEDS_BROWSER, visit } from './sign-up'
import { type CaseStep, type CaseSteps, failed, notTried, passed, pictured } from './step'
import { addressOf, type CaseContext, formMet } from './way'

/** Those who only open the page, look, and come to the button. Desk, phone and scripts off sign up, elsewhere. */
const LOOKING: readonly ViewerId[] = ['desk', 'tablet', 'wide', 'zoomed', 'dark', 'language', 'calm']
/** So many at once: each is a page of its own in one browser. */
const AT_ONCE = 2

/** The page as it is on other screens, and for those who asked for other colours, words or less motion. */
export async function* viewers(way: CaseContext): CaseSteps {
  if (way.ports.browser?.kind !== 'visits') return yield notTried('form', 'On other screens', NEEDS_BROWSER)
  let isOver = false
  const looks: Promise<Browsed<Visited>>[] = []
  for (const [at, viewer] of LOOKING.entries()) {
    const before = looks[at - AT_ONCE]
    const look = () => (isOver ? LATE : visit(way, { viewer, fills: null, presses: 0, sweeps: viewer === 'desk' }))
    looks.push(before === undefined ? Promise.resolve(look()) : before.then(look))
  }
  try {
    for (const [at, viewer] of LOOKING.entries()) yield stepOf(way, viewer, await looks[at]!)
  } finally {
    isOver = true
  }
}

/** Once one has failed, the others are not needed. */
const LATE = { isTried: false as const, reason: '' }

function stepOf(way: CaseContext, viewer: ViewerId, seen: Browsed<Visited>): CaseStep {
  const isSwept = viewer === 'desk'
  const what = isSwept ? 'At any width of the window' : `With ${viewerOf(viewer).name}`
  if (!seen.isTried) return notTried('form', what, seen.reason)
  const look = lookOf(seen, viewer)
  const met = obstacleMet(seen, formMet(way))
  if (met !== null) return pictured(failed(met.station, what, forThem(viewer, met.failure)), look)
  const widths = seen.hiddenAt ?? []
  if (widths.length > 0) return failed('spot', what, hiddenAt(widths))
  return pictured(passed('form', what, ['In sight, and ready to be pressed.', ...seen.remarks].join(' ')), look)
}

/** A failure that says for whom it is one. */
function forThem(viewer: ViewerId, { expected, happened, ...rest }: Failure): Failure {
  return { ...rest, expected, happened: `With ${viewerOf(viewer).name}: ${happened}`.slice(0, 2_000) }
}

function hiddenAt(widths: readonly [number, number][]): Failure {
  const at = widths.map(([from, to]) => `${from.toLocaleString('en')} to ${to.toLocaleString('en')}`).join(', and at ')
  return failure('hidden-at-widths', 'page', {
    expected: 'Visitors see the form, however wide their window is.',
    happened: `It is out of sight at ${at} pixels.`,
    cause: 'A style of the site hides it, or what is around it, for windows of those widths.',
    mend: 'Look for a rule of the site with these widths (“@media”), or put the code where nothing hides it.',
  })
}

/** Somebody who takes her time, and comes back. */
export async function* slow(way: CaseContext, visited: Promise<Browsed<Visited>>): CaseSteps {
  const what = 'Somebody who takes her time'
  if (way.ports.browser?.kind !== 'visits') return yield notTried('form', what, NEEDS_BROWSER)
  const seen = await visited
  if (!seen.isTried) return yield notTried('form', what, seen.reason)
  const look = lookOf(seen, 'desk')
  const met = obstacleMet(seen, formMet(way))
  const when = seen.isReturn === true ? 'On coming back' : what
  yield pictured(
    met === null
      ? passed('form', what, ['Filled in within twenty seconds, and again on coming back.', ...seen.remarks].join(' '))
      : failed(met.station, when, met.failure),
    look,
  )
}

/** Begun beside all else: it takes half a minute, most of it waiting. */
export function beginSlowly(way: CaseContext): Promise<Browsed<Visited>> {
  const fills = fillsOf(way.content, personFor(way.content, addressOf(way, 'slow')))
  return visit(way, { viewer: 'desk', fills, presses: 0, isSlow: true })
}
