import { failure, personFor } from '#core/proof'
import { fillsOf } from '#core/usable'
import { NEEDS_BROWSER, visit } from './sign-up'
import { type CaseSteps, failed, judged, notTried, passed } from './step'
import { obstacleMet } from './visit-findings'
import { addressOf, DESK_WIDTH, type CaseContext, formMet } from './way'
import { pagesWithout } from './without'

/** Other pages of the site: those that rules mean show the form, those that they leave out do not. */
export async function* elsewhere(way: CaseContext): CaseSteps {
  yield* shownOn(way)
  yield* absentFrom(way)
}

/** Pages by chance, of each group of the site: a rule stands on pages that nobody looks at one by one. */
async function* shownOn(way: CaseContext): CaseSteps {
  const { spot, morePages = [] } = way.subject
  const { browser } = way.ports
  const fills = fillsOf(way.content, personFor(way.content, addressOf(way, 'look')))
  for (const address of morePages) {
    const what = `${new URL(address).pathname} shows it too`
    if (browser === null) {
      yield notTried('spot', what, NEEDS_BROWSER)
      continue
    }
    if (browser.kind === 'visits') {
      const seen = await visit(way, { viewer: 'desk', fills, presses: 0 }, address)
      const met = seen.isTried ? obstacleMet(seen, formMet(way)) : null
      if (!seen.isTried) yield notTried('spot', what, seen.reason)
      else if (met !== null) yield failed(met.station, what, met.failure)
      else yield passed('spot', what, ['Seen there, and filled in.', ...seen.remarks].join(' '))
    } else {
      const seen = await browser.withScripts({ address, spot: spot.id, width: DESK_WIDTH, fills: null, presses: 1 })
      if (!seen.isTried) yield notTried('spot', what, seen.reason)
      else yield judged('spot', what, seen.isThere ? null : notThere(), 'Seen there.')
    }
  }
}

const notThere = () =>
  failure('no-place', 'page', {
    expected: 'The form stands there.',
    happened: 'It does not.',
    cause: 'The page is built otherwise than the pages that the rule was made for.',
    mend: 'Choose another place, or leave such pages out of the rule.',
  })

async function* absentFrom(way: CaseContext): CaseSteps {
  const { spot, site } = way.subject
  const pages = pagesWithout(spot, site, way.standing.sitePage.address)
  if (pages.length === 0) return
  const { browser } = way.ports
  for (const address of pages) {
    const what = `${new URL(address).pathname} stays without it`
    if (browser === null) {
      yield notTried('spot', what, NEEDS_BROWSER)
      continue
    }
    const seen =
      browser.kind === 'visits'
        ? await visit(way, { viewer: 'desk', fills: null, presses: 0 }, address)
        : await browser.withScripts({ address, spot: spot.id, width: DESK_WIDTH, fills: null, presses: 1 })
    if (!seen.isTried) yield notTried('spot', what, seen.reason)
    else
      yield judged(
        'spot',
        what,
        seen.isThere
          ? failure('shown-elsewhere', 'spot', {
              expected: 'The form does not appear there.',
              happened: 'It does.',
              cause: 'The rules on the receiver are others than the ones here, or the page has code of its own.',
              mend: 'Look at the pages that the rules mean, and at what stands on that page.',
            })
          : null,
        'Nothing appeared.',
      )
  }
}
