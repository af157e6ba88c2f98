import { type As, REHEARSAL_HEADER, rehearsalHeader } from '#core/rehearsal'
import { fetchPage, type OutsidePage } from '../outside'
import type { Settings } from '../settings'

/** The form sends to somewhere else than this receiver. */
export class OtherAction extends Error {}

/** Forms on pages send to the first; buttons on the pages that mails lead to, to the others. */
const OWN_ACTIONS = ['/join/', '/confirm/', '/leave/', '/resend/']

/** The requests of a rehearsal: over the network, as visitors' browsers make them, to the address that visitors use. */
export function rehearsalRequests({ publicUrl, standIns }: Settings, code: string) {
  const allowed = [publicUrl, ...(standIns === null ? [] : [standIns])]
  // Only our own server is told that it is a rehearsal: everybody else answers as always.
  const headers = (as?: As) => ({ origin: publicUrl, values: { [REHEARSAL_HEADER]: rehearsalHeader(code, as) } })
  return {
    fetch: (address: string, as?: As): Promise<OutsidePage> => fetchPage(address, allowed, { headers: headers(as) }),
    /** @throws OtherAction */
    send(address: string, contentType: string, body: Uint8Array, as?: As): Promise<OutsidePage> {
      if (!OWN_ACTIONS.some((path) => address.startsWith(`${publicUrl}${path}`))) throw new OtherAction()
      return fetchPage(address, allowed, { headers: headers(as), post: { contentType, body } })
    },
  }
}
