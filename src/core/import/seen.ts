/** Two numbers of 32 bits for a text, by which it is known again: FNV-1a (Fowler, Noll, Vo), with two beginnings. */
function hashOf(text: string): [number, number] {
  let [one, other] = [0x811c9dc5, 0x9dc5811c]
  for (let at = 0; at < text.length; at += 1) {
    const code = text.charCodeAt(at)
    one = Math.imul(one ^ code, 0x01000193) >>> 0
    other = Math.imul(other ^ (code + at), 0x01000193) >>> 0
  }
  return [one, other || 1]
}

/**
 * On which line each address stood first. Held by 64 bits of hash in arrays of numbers, because a million texts would take
 * hundreds of megabytes; that two of a million addresses have the same is less likely than one in ten million.
 */
export class SeenAddresses {
  private size = 1 << 12
  private count = 0
  private ones = new Uint32Array(this.size)
  private others = new Uint32Array(this.size)
  private lines = new Uint32Array(this.size)

  /** The line on which it stood first; null where this is the first. */
  firstLine(compared: string, line: number): number | null {
    const [one, other] = hashOf(compared)
    const at = this.placeOf(one, other)
    if (this.others[at] !== 0) return this.lines[at]!
    this.put(at, one, other, line)
    if (this.count * 2 > this.size) this.grow()
    return null
  }

  private put(at: number, one: number, other: number, line: number): void {
    this.ones[at] = one
    this.others[at] = other
    this.lines[at] = line
    this.count += 1
  }

  private placeOf(one: number, other: number): number {
    let at = one % this.size
    while (this.others[at] !== 0 && (this.ones[at] !== one || this.others[at] !== other)) at = (at + 1) % this.size
    return at
  }

  private grow(): void {
    const { ones, others, lines, size } = this
    this.size = size * 2
    this.count = 0
    this.ones = new Uint32Array(this.size)
    this.others = new Uint32Array(this.size)
    this.lines = new Uint32Array(this.size)
    for (let at = 0; at < size; at += 1)
      if (others[at] !== 0) this.put(this.placeOf(ones[at]!, others[at]!), ones[at]!, others[at]!, lines[at]!)
  }
}
