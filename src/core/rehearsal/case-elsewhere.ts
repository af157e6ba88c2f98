import { failure } from '#core/proof'
import { NEEDS_BROWSER, visit } from './sign-up'
import { type CaseSteps, judged, notTried } from './step'
import { DESK_WIDTH, type CaseContext } from './way'
import { pagesWithout } from './without'

export async function* elsewhere(way: CaseContext): CaseSteps {
  const { spot, site } = way.subject
  if (spot.kind !== 'pop-up') return
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
              expected: 'The pop-up does not appear there.',
              happened: 'It does.',
              cause: 'The rules on the receiver are others than the ones here, or the page has a part of its own.',
              mend: 'Look at the pop-up’s pages, and at what stands in that page’s head.',
            })
          : null,
        'Nothing appeared.',
      )
  }
}
