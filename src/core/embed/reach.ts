import { isLoopback, type Site, siteHost } from '#core/site'

/**
 * Why code that names this receiver would work on no visitor's computer, or null when it works. A site on
 * this computer (a stand-in) can talk to a receiver on this computer; any other site needs a public one.
 */
export function codeReachProblem(receiver: string, site: Site): string | null {
  const address = new URL(receiver)
  if (address.protocol === 'https:' && !isLoopback(address.hostname)) return null
  if (isLoopback(hostname(site.address)) && isLoopback(address.hostname)) return null
  return `Visitors of ${siteHost(site.address)} do not reach Ask Box: it runs on this computer only. Put it online, have somebody run it for you, or bring the form that your list service made for you: that one needs no server.`
}

function hostname(address: string): string {
  try {
    return new URL(address).hostname
  } catch {
    return ''
  }
}
