import { isLoopback, type Site, siteHost } from '#core/site'

/**
 * Why code that names this receiver would work on no visitor's computer, or null when it works. A site on
 * this computer (a stand-in) can talk to a receiver on this computer; any other site needs a public one.
 */
export function codeReachProblem(receiver: string, site: Site): string | null {
  const address = new URL(receiver)
  if (address.protocol === 'https:' && !isLoopback(address.hostname)) return null
  if (isLoopback(hostname(site.address)) && isLoopback(address.hostname)) return null
  return (
    `Visitors of ${siteHost(site.address)} cannot reach ${receiver}, which is an address of this computer only. ` +
    'Run the receiver where the internet reaches it over https and start it with ASKBOX_PUBLIC_URL set to that address.'
  )
}

function hostname(address: string): string {
  try {
    return new URL(address).hostname
  } catch {
    return ''
  }
}
