/**
 * A domain name in ASCII, by the WHATWG URL standard's "domain to ASCII" (UTS #46, non-transitional),
 * or null when there is none. Pure ASCII domains pass unchanged: the caller's grammar judges them.
 */
export function domainToAscii(domain: string): string | null {
  if (IS_ASCII.test(domain)) return domain
  // Characters that would end the host part of a URL must not reach the URL parser.
  if (URL_DELIMITER.test(domain)) return null
  try {
    const ascii = new URL(`http://${domain}/`).hostname
    // The URL standard turns a host ending in a number into an IPv4 address; mail domains are names.
    return IPV4_ADDRESS.test(ascii) ? null : ascii
  } catch {
    return null
  }
}

const IS_ASCII = /^[\x00-\x7f]*$/

const URL_DELIMITER = /[\x00-\x20/\\?#@:%[\]<>^|\x7f]/
const IPV4_ADDRESS = /^\d+\.\d+\.\d+\.\d+$/
