/** Values that are the same for many, each kept once and known by a number. */
export class Pool<Value> {
  private readonly numbers = new Map<string, number>()
  private readonly values: Value[] = []
  private readonly texts: string[] = []

  /** @param textOf what is searched in a value */
  constructor(private readonly textOf: (value: Value) => string = () => '') {}

  add(value: Value): number {
    const key = JSON.stringify(value)
    const existing = this.numbers.get(key)
    if (existing !== undefined) return existing
    const number = this.values.length
    this.numbers.set(key, number)
    this.values.push(value)
    this.texts.push(this.textOf(value))
    return number
  }

  get(number: number): Value {
    return this.values[number]!
  }

  /** By number, 1 for each value that is wanted. */
  which(isWanted: (value: Value) => boolean): Uint8Array {
    return Uint8Array.from(this.values, (value) => (isWanted(value) ? 1 : 0))
  }

  /** By number, where a value stands among all of them; equal values have the same rank. */
  ranksBy(compare: (one: Value, other: Value) => number): Uint32Array {
    const numbers = this.values.map((_, number) => number)
    numbers.sort((one, other) => compare(this.values[one]!, this.values[other]!))
    const ranks = new Uint32Array(numbers.length)
    for (const [at, number] of numbers.entries()) {
      const before = at === 0 ? undefined : numbers[at - 1]!
      const isSame = before !== undefined && compare(this.values[before]!, this.values[number]!) === 0
      ranks[number] = isSame ? ranks[before]! : at
    }
    return ranks
  }

  whichText(isWanted: (text: string) => boolean): Uint8Array {
    return Uint8Array.from(this.texts, (text) => (isWanted(text) ? 1 : 0))
  }
}
