/** What macros of a record stand for. */
export interface SpfMacroValues {
  /** Address of the return path. */
  sender: string
  /** Whose record is read just now. */
  domain: string
  /** Of the connecting server, as `spfAddress` writes it; null where none is known. */
  address: { dotted: string; family: 4 | 6 } | null
  /** By which name the server greets. */
  helo: string
}

/**
 * Expands the macros of a name, RFC 7208, section 7.
 *
 * @returns null where a macro needs what is not known: an address, or names looked up in reverse (`p`, of which section 7.2
 *   says that it is not to be used)
 */
export function expandSpfMacros(text: string, { sender, domain, address, helo }: SpfMacroValues): string | null {
  const at = sender.lastIndexOf('@')
  const values: Record<string, string | null> = {
    s: sender,
    l: sender.slice(0, at),
    o: sender.slice(at + 1),
    d: domain,
    h: helo,
    i: address?.dotted ?? null,
    v: address === null ? null : address.family === 4 ? 'in-addr' : 'ip6',
  }
  let isWhole = true
  const expanded = text.replace(
    /%\{([a-z])(\d*)(r?)([-.+,/_=]*)\}|%([%_-])/gi,
    (_, letter?: string, digits = '', reversed = '', delimiters = '', escape?: string) => {
      if (escape !== undefined) return { '%': '%', _: ' ', '-': '%20' }[escape]!
      const value = values[letter!.toLowerCase()] ?? null
      if (value === null) {
        isWhole = false
        return ''
      }
      const parts = value.split(new RegExp(`[${(delimiters || '.').replaceAll('-', String.raw`\-`)}]`))
      if (reversed !== '') parts.reverse()
      return (digits === '' ? parts : parts.slice(-Number(digits))).join('.')
    },
  )
  if (!isWhole) return null
  // Section 7.3: a name that is too long loses labels from the left.
  let name = expanded
  while (name.length > 253 && name.includes('.')) name = name.slice(name.indexOf('.') + 1)
  return name
}
