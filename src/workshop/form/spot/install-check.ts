import type { Version } from '#core/form'
import type { InstallReport } from '#core/install'
import { personFor, rehearsalAddress } from '#core/proof'
import { fillsOf, type Visited, visitOf, withSeen } from '#core/rehearsal'
import type { Spot } from '#core/spot'
import { clientFor, type Pairing } from '../../client'
import { callWorker } from '../../worker-calls'
import type { InstallFunctions, InstallWish } from './install-worker'

/** Looks for a spot's code in a page, beside the interface. */
export function lookFor(wish: InstallWish): Promise<InstallReport> {
  const worker = new Worker(new URL('./install-worker.ts', import.meta.url), { type: 'module' })
  return callWorker<InstallFunctions, InstallReport>(worker, ({ look }) => look(wish))
}

/**
 * What the receiver's browser says beside what the page's source says: it opens the page at both sizes and fills the form
 * in, without sending it. Where there is no browser, or it could not open the page, the source alone counts.
 */
export async function seenInBrowser(
  pairing: Pairing,
  receiver: string,
  {
    spot,
    address,
    version,
    others,
  }: { spot: Spot; address: string; version: Version; others: ReadonlyMap<string, string> },
  report: InstallReport,
): Promise<InstallReport> {
  const client = clientFor(pairing)
  const { code, hasBrowser } = await client.startRehearsal(spot.id)
  try {
    if (!hasBrowser) return report
    const fills = fillsOf(version.content, personFor(version.content, rehearsalAddress(code, 'look')))
    const seen: Visited[] = []
    for (const viewer of ['desk', 'phone'] as const) {
      const one = await client.visitForRehearsal(
        code,
        visitOf(spot, receiver, version.content, { address, viewer, fills, presses: 0 }),
      )
      if (!one.isTried) return report
      seen.push(one)
    }
    return withSeen(report, seen, { spot, content: version.content, others })
  } finally {
    await client.endRehearsal(code).catch(() => {})
  }
}
