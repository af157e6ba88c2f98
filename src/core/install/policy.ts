/*
 * What a page's Content Security Policy permits, as far as our code asks for it. Content Security Policy Level 3,
 * sections 6.7.2.5 to 6.7.2.8 and the fallbacks of 6.8.1, without nonces and hashes, which pasted code has none of.
 */

const FALLBACKS: Record<string, readonly string[]> = {
  'script-src-elem': ['script-src-elem', 'script-src', 'default-src'],
  'style-src-elem': ['style-src-elem', 'style-src', 'default-src'],
  'style-src-attr': ['style-src-attr', 'style-src', 'default-src'],
  'connect-src': ['connect-src', 'default-src'],
  'frame-src': ['frame-src', 'child-src', 'default-src'],
  'form-action': ['form-action'],
}
export type Directive = keyof typeof FALLBACKS

/** The directive that forbids an address (or, for styles, what is written in the page), or null. Several policies hold all. */
export function forbiddenBy(
  policies: readonly string[],
  directive: string,
  target: string,
  page: string | null,
): string | null {
  for (const policy of policies.flatMap((one) => one.split(','))) {
    const directives = new Map(
      policy
        .split(';')
        .map((one) => one.trim().toLowerCase().split(/\s+/))
        .filter(([name]) => name !== '')
        .reverse()
        .map(([name, ...sources]) => [name!, sources]),
    )
    const name = FALLBACKS[directive]!.find((one) => directives.has(one))
    if (name === undefined) continue
    const sources = directives.get(name)!
    // Beside a nonce or a hash, `'unsafe-inline'` counts for nothing (section 6.7.3.2).
    const isAllowed =
      target === 'inline'
        ? sources.includes("'unsafe-inline'") && !sources.some((source) => /^'(nonce|sha\d+)-/.test(source))
        : sources.some((source) => matches(source, target, page))
    if (!isAllowed) return name
  }
  return null
}

function matches(source: string, target: string, page: string | null): boolean {
  const address = new URL(target)
  if (source === '*') return /^(https?|wss?):$/.test(address.protocol)
  if (source === "'self'") return page !== null && new URL(page).origin === address.origin
  if (/^[a-z][a-z0-9+.-]*:$/.test(source))
    return address.protocol === source || (source === 'http:' && address.protocol === 'https:')
  const parsed = /^(?:([a-z][a-z0-9+.-]*):\/\/)?([^/:]+)(?::(\d+|\*))?(\/.*)?$/.exec(source)
  if (parsed === null) return false
  const [, scheme, host, port, path] = parsed
  if (
    scheme !== undefined &&
    `${scheme}:` !== address.protocol &&
    !(scheme === 'http' && address.protocol === 'https:')
  )
    return false
  if (host!.startsWith('*.') ? !address.hostname.endsWith(host!.slice(1)) : host !== '*' && host !== address.hostname)
    return false
  const usual = address.port || (address.protocol === 'https:' ? '443' : '80')
  const isPort = port === '*' || (port === undefined ? address.port === '' : port === usual)
  if (!isPort) return false
  return (
    path === undefined ||
    path === '/' ||
    (path.endsWith('/') ? address.pathname.startsWith(path) : address.pathname === path)
  )
}
