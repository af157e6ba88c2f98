import { guardedRequest, OutsideProblem } from '../outside'
import type { Settings } from '../settings'

/** Origins of this computer that may be asked all the same: our own, and the stand-ins. */
export function allowedOrigins({ publicUrl, standIns, serviceStandIns }: Settings): string[] {
  return [publicUrl, standIns, serviceStandIns].flatMap((address) =>
    address === null ? [] : [new URL(address).origin],
  )
}

/** Asks an address that a letter leads to, as a reader's browser would. */
export async function tryLink(address: string, settings: Settings): Promise<{ ok: boolean; said: string }> {
  try {
    const { status, location } = await guardedRequest(address, {
      headers: { Accept: 'text/html,*/*;q=0.8' },
      allowed: allowedOrigins(settings),
      limits: { ms: 10_000 },
      // Where our own counter leads to is the owner's own link, which is tried by itself.
      isFollowed: !address.startsWith(`${settings.publicUrl}/to/`),
    })
    // A site that lets in no programs is there (common practice: 401, 403, 405 and 429 answer those).
    const isThere = status < 400 || [401, 403, 405, 429].includes(status)
    return { ok: isThere, said: location === null ? `answers ${status}` : `leads on, and answers ${status}` }
  } catch (error) {
    if (error instanceof OutsideProblem) return { ok: false, said: error.message }
    throw error
  }
}
