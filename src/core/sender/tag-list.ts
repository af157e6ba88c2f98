/**
 * A tag list, RFC 6376, section 3.2; DMARC records have the same shape (RFC 7489, section 6.3).
 *
 * @returns tags in their order, or null where the text is none: a tag without a name or `=`, or one that stands twice
 */
export function readTagList(text: string): Map<string, string> | null {
  const tags = new Map<string, string>()
  const specs = text.split(';')
  // The last may be empty: a list may end with a semicolon.
  if (specs.at(-1)!.trim() === '') specs.pop()
  for (const spec of specs) {
    const parts = /^\s*([a-z][a-z0-9_]*)\s*=([^]*)$/i.exec(spec)
    if (parts === null || tags.has(parts[1]!)) return null
    tags.set(parts[1]!, parts[2]!.trim())
  }
  return tags
}
