import type { As } from '#core/rehearsal'
import { fetchPage, type FetchedPage } from '../outside/fetch-page'
import type { Settings } from '../settings'
import { REHEARSAL_HEADER, rehearsalHeader } from './rehearsals'

/** The form sends to somewhere else than this receiver. */
export class OtherAction extends Error {}

/** The requests of a rehearsal: over the network, as visitors' browsers make them, to the address that visitors use. */
export function rehearsalRequests({ publicUrl, standIns }: Settings, code: string) {
  const allowed = [publicUrl, ...(standIns === null ? [] : [standIns])]
  // Only our own server is told that it is a rehearsal: everybody else answers as always.
  const headers = (as?: As) => ({ origin: publicUrl, values: { [REHEARSAL_HEADER]: rehearsalHeader(code, as) } })
  return {
    fetch: (address: string, as?: As): Promise<FetchedPage> => fetchPage(address, allowed, { headers: headers(as) }),
    /** @throws OtherAction */
    send(address: string, contentType: string, body: Uint8Array, as?: As): Promise<FetchedPage> {
      if (!address.startsWith(`${publicUrl}/join/`)) throw new OtherAction()
      return fetchPage(address, allowed, { headers: headers(as), post: { contentType, body } })
    },
  }
}
