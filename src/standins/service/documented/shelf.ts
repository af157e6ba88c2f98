import { randomUUID } from 'node:crypto'

/** Somebody at one of the documented services. */
export interface ShelfPerson {
  id: string
  email: string
  values: Record<string, string>
  tags: Set<string>
  lists: Set<string>
}

/** What one documented service holds, in memory. */
export class Shelf {
  readonly people = new Map<string, ShelfPerson>()
  /** Whether it takes nobody in a request about several. */
  isPicky = false
  /** Tags by their number. */
  readonly tags: { id: number; name: string }[] = [{ id: 3, name: 'from the fair' }]

  constructor(readonly lists: readonly { id: string; name: string }[]) {}

  list(id: string) {
    return this.lists.find((one) => one.id === id)
  }

  on(list: string): ShelfPerson[] {
    return [...this.people.values()].filter(({ lists }) => lists.has(list))
  }

  find(email: string, list?: string): ShelfPerson | undefined {
    const person = this.people.get(email.toLowerCase())
    return person !== undefined && (list === undefined || person.lists.has(list)) ? person : undefined
  }

  byId(id: string): ShelfPerson | undefined {
    return [...this.people.values()].find((one) => one.id === id)
  }

  put(email: string, list: string, values: Record<string, string>, tags: readonly string[] = []): ShelfPerson {
    const person: ShelfPerson = this.find(email) ?? {
      ...{ id: randomUUID(), email, values: {} },
      ...{ tags: new Set<string>(), lists: new Set<string>() },
    }
    this.people.set(email.toLowerCase(), person)
    person.lists.add(list)
    Object.assign(person.values, values)
    for (const tag of tags) person.tags.add(tag)
    return person
  }

  drop(person: ShelfPerson | undefined, list: string): boolean {
    if (person?.lists.delete(list) !== true) return false
    if (person.lists.size === 0) this.people.delete(person.email.toLowerCase())
    return true
  }
}

export const isEmail = (value: unknown): value is string =>
  typeof value === 'string' && /^[^@\s]+@[^@\s.]+(?:\.[^@\s.]+)+$/.test(value)

/** A stretch of a list. */
export const stretch = <T>(all: readonly T[], from: number, size: number) => ({
  items: all.slice(from, from + size),
  more: from + size < all.length,
})
