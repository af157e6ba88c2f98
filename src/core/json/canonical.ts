/**
 * Writes a value made of JSON as RFC 8785 (JSON Canonicalization Scheme) does: the same text in whatever order keys were
 * set. Numbers are written as `JSON.stringify` does, which is what the RFC asks for. Keys that are `undefined` count as missing.
 */
export function canonicalJson(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonicalJson).join(',')}]`
  if (value === null || typeof value !== 'object') return JSON.stringify(value)
  const members = Object.entries(value).filter(([, member]) => member !== undefined)
  members.sort(([one], [other]) => (one < other ? -1 : 1))
  return `{${members.map(([name, member]) => `${JSON.stringify(name)}:${canonicalJson(member)}`).join(',')}}`
}
