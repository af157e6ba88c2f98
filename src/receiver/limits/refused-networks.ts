import { networksOf } from './network'

const DAY_MS = 86_400_000
/** Of more, the one that was refused longest ago is forgotten. */
const MOST = 1_000

/** How often networks were refused today, in a fixed amount of memory; nothing is told of who they are. */
export class RefusedNetworks {
  private day = 0
  private readonly times = new Map<string, number>()

  /** @param now milliseconds since 1970 */
  constructor(private readonly now: () => number) {}

  note(address: string): void {
    this.turnDay()
    const [narrowest] = networksOf(address) ?? []
    if (narrowest === undefined) return
    const name = narrowest.key.join()
    const count = (this.times.get(name) ?? 0) + 1
    this.times.delete(name)
    this.times.set(name, count)
    for (const [first] of this.times) if (this.times.size > MOST) this.times.delete(first)
  }

  /** How many networks were refused today (UTC), and how often the one that was most. */
  today(): { networks: number; most: number } {
    this.turnDay()
    return { networks: this.times.size, most: Math.max(0, ...this.times.values()) }
  }

  private turnDay(): void {
    const day = Math.floor(this.now() / DAY_MS)
    if (day !== this.day) this.times.clear()
    this.day = day
  }
}
