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
 * Which line of each address counts: the strictest one, the first of equals. Held by 64 bits of hash in arrays of numbers, because a million texts would take
 * hundreds of megabytes; that two of a million addresses have the same is less likely than one in ten million.
 */
export class SeenAddresses {
  private size = 1 << 12
  private count = 0
  private ones = new Uint32Array(this.size)
  private others = new Uint32Array(this.size)
  private lines = new Uint32Array(this.size)
  private ranks = new Uint8Array(this.size)

  /**
   * Takes in a line.
   *
   * @param rank 0 is the strictest
   * @returns the line that counts, of those that were seen so far
   */
  see(compared: string, line: number, rank = 0): number {
    const [one, other] = hashOf(compared)
    const at = this.placeOf(one, other)
    if (this.others[at] !== 0) {
      if (rank < this.ranks[at]!) [this.lines[at], this.ranks[at]] = [line, rank]
      return this.lines[at]!
    }
    this.put(at, one, other, line, rank)
    if (this.count * 2 > this.size) this.grow()
    return line
  }

  /** The line that counts; null for an address that was not seen. */
  lineOf(compared: string): number | null {
    const at = this.placeOf(...hashOf(compared))
    return this.others[at] === 0 ? null : this.lines[at]!
  }

  private put(at: number, one: number, other: number, line: number, rank: number): void {
    this.ones[at] = one
    this.others[at] = other
    this.lines[at] = line
    this.ranks[at] = rank
    this.count += 1
  }

  private placeOf(one: number, other: number): number {
    let at = one % this.size
    while (this.others[at] !== 0 && (this.ones[at] !== one || this.others[at] !== other)) at = (at + 1) % this.size
    return at
  }

  private grow(): void {
    const { ones, others, lines, ranks, size } = this
    this.size = size * 2
    this.count = 0
    this.ones = new Uint32Array(this.size)
    this.others = new Uint32Array(this.size)
    this.lines = new Uint32Array(this.size)
    this.ranks = new Uint8Array(this.size)
    for (let at = 0; at < size; at += 1)
      if (others[at] !== 0)
        this.put(this.placeOf(ones[at]!, others[at]!), ones[at]!, others[at]!, lines[at]!, ranks[at]!)
  }
}
