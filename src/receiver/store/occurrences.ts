/**
 * How often any of some texts stands in a file, as UTF-8, in whatever letter case. The time it takes grows with the file, and
 * hardly with the number of texts: around each `@`, what stands there is looked up by its domain and its length.
 */
export async function occurrencesIn(file: AsyncIterable<unknown>, texts: readonly string[]): Promise<number> {
  const wanted = texts.map((text) => Buffer.from(text.toLowerCase()).toString('latin1'))
  const longest = Math.max(1, ...wanted.map(({ length }) => length))
  const plain = wanted.filter((text) => !text.includes('@'))
  const addresses = wanted.filter((text) => text.includes('@'))
  const keyLength = Math.min(MOST_KEY, ...addresses.map((one) => one.length - one.lastIndexOf('@') - 1))
  const domains = byDomain(addresses, keyLength)
  let count = 0
  let rest = ''
  for await (const piece of file) {
    const text = rest + (piece as Buffer).toString('latin1').toLowerCase()
    // What lies in the rest alone was counted with the piece before.
    const isNew = (end: number) => end > rest.length
    for (const one of plain)
      for (let at = text.indexOf(one); at >= 0; at = text.indexOf(one, at + 1)) if (isNew(at + one.length)) count += 1
    for (let at = text.indexOf('@'); at >= 0; at = text.indexOf('@', at + 1))
      for (const { domain, lengths, locals } of domains.get(text.slice(at + 1, at + 1 + keyLength)) ?? []) {
        const end = at + 1 + domain.length
        if (!isNew(end) || !text.startsWith(domain, at + 1)) continue
        for (const length of lengths) if (length <= at && locals.has(text.slice(at - length, at))) count += 1
      }
    rest = text.slice(-longest)
  }
  return count
}

/** Letters behind the `@` by which a domain is looked up, where every domain has as many. */
const MOST_KEY = 3

interface Domain {
  domain: string
  /** Local parts by domain, and their greatest length. */
  locals: Set<string>
  lengths: Set<number>
}

function byDomain(addresses: readonly string[], keyLength: number): Map<string, Domain[]> {
  const domains = new Map<string, Domain>()
  for (const address of addresses) {
    const at = address.lastIndexOf('@')
    const domain = address.slice(at + 1)
    const one = domains.get(domain) ?? { domain, locals: new Set(), lengths: new Set() }
    one.locals.add(address.slice(0, at))
    one.lengths.add(at)
    domains.set(domain, one)
  }
  const found = new Map<string, Domain[]>()
  for (const one of domains.values()) {
    const key = one.domain.slice(0, keyLength)
    found.set(key, [...(found.get(key) ?? []), one])
  }
  return found
}
