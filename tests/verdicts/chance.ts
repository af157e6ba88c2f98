/** Numbers that one seed always brings in the same order. Mulberry32, by T. Ettinger; from memory. */
export class Chance {
  private state: number

  constructor(seed: number) {
    this.state = seed >>> 0
  }

  /** From 0, below 1. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(this.state ^ (this.state >>> 15), this.state | 1)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32
  }

  /** A whole number, both ends included. */
  between(least: number, most: number): number {
    return least + Math.floor(this.next() * (most - least + 1))
  }

  isTrue(share: number): boolean {
    return this.next() < share
  }

  one<T>(of: readonly T[]): T {
    return of[Math.floor(this.next() * of.length)]!
  }
}
