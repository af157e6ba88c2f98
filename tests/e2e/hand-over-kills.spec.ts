import { expect, test } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { Holdings } from '../service-ground'
import { killOften, receiverOf, servicesOf } from '../kills'
import { type RunningBox, startBox } from '../programs'
import { times } from '../seed'

const KILLS = times({ short: 3, whole: 6, endure: 100 })
const LIST = 'schoolvisits'

let box: RunningBox
test.beforeAll(async () => {
  box = await startBox({ withService: true })
})
test.afterAll(() => box.stop())

interface Person {
  member: string
  email: string
  revision: number
  /** First names that they had, in order. */
  names: string[]
  isOn: boolean
}

test(`receiver and service killed at any moment: everybody is there once, as they were last; nobody who left comes back`, async () => {
  test.setTimeout(60_000 + KILLS * 20_000)
  const people: Person[] = []
  const load = { isOver: false }
  const killing = killOften(KILLS, [receiverOf(box), servicesOf(box)], {
    done: () => people.length,
    enough: () => 2,
    withinMs: 700,
  })
  await Promise.all([comeAndGo(people, load), killing.finally(() => (load.isOver = true))])
  const headers = { Authorization: `Bearer ${box.key}` }
  const standing = async () => {
    const response = await fetch(`${box.workshop}/api/outside`, { headers })
    const { handOvers } = (await response.json()) as { handOvers: { id: string; waiting: number; refused: number }[] }
    return handOvers.find(({ id }) => id === 'schoolshandedon')!
  }
  await fetch(`${box.workshop}/api/connections/lanternpost/go-on`, { method: 'POST', headers })
  await expect.poll(async () => (await standing()).waiting, { timeout: 60_000 }).toBe(0)
  expect(await standing()).toMatchObject({ refused: 0 })
  expect(people.length).toBeGreaterThan(KILLS)
  expectAsLast(people, join(box.folder, 'stand-ins/service.jsonl'))
})

/** People are added, changed and removed, one after the other, until it is over. */
async function comeAndGo(people: Person[], load: { isOver: boolean }): Promise<void> {
  for (let at = 0; !load.isOver; at += 1) {
    const email = `Kill.${at}@people.example`
    const person: Person = { member: `killed${at}`, email, revision: 0, names: [`Name ${at}`], isOn: true }
    const about = { member: person.member }
    const values = { 'first-name': person.names[0]! }
    person.revision = await command({ ...about, kind: 'add-member', email, values, consent: 'Told so.' })
    people.push(person)
    const other = people[(at * 7) % people.length]!
    if (at % 2 === 1 && other.isOn) {
      other.names.push(`Name ${at} anew`)
      const { revision } = other
      const change = { member: other.member, email: other.email, values: { 'first-name': other.names.at(-1)! } }
      other.revision = await command({ ...change, kind: 'edit-member', revision })
    }
    const gone = people[(at * 5) % people.length]!
    if (at % 3 === 2 && gone.isOn) {
      gone.isOn = false
      gone.revision = await command({ member: gone.member, kind: 'remove-member', revision: gone.revision })
    }
  }
}

/** Tried until it is done, as a workshop does. */
async function until<T>(work: () => Promise<T>): Promise<T> {
  for (;;) {
    try {
      return await work()
    } catch {
      await new Promise((resolve) => setTimeout(resolve, 20))
    }
  }
}

let commands = 0
/** Sent again with the same id until it is acknowledged, as the workshop does; resolves with the number of its entry. */
async function command(body: object): Promise<number> {
  const id = `killcommand${(commands += 1)}`
  const { outcomes } = await until(async () => {
    const response = await fetch(`${box.workshop}/api/commands`, {
      method: 'POST',
      headers: { Authorization: `Bearer ${box.key}`, 'Content-Type': 'application/json' },
      body: JSON.stringify({ commands: [{ id, list: LIST, ...body }] }),
      signal: AbortSignal.timeout(5_000),
    })
    return (await response.json()) as { outcomes: { ok: boolean; n: number }[] }
  })
  expect(outcomes[0]).toMatchObject({ ok: true })
  return outcomes[0]!.n
}

/** @param held the file of the pretend service */
function expectAsLast(people: readonly Person[], held: string): void {
  const there = [...new Holdings(held).list('lantern', 'l1')!.people.values()]
    .filter(({ email, state }) => email.startsWith('Kill.') && state !== 'off')
    .map(({ email, values }) => `${email} ${values.FIRST}`)
  const wanted = people.filter(({ isOn }) => isOn).map(({ email, names }) => `${email} ${names.at(-1)}`)
  expect(there.toSorted()).toEqual(wanted.toSorted())
  // Whatever was written there of somebody was written in the order in which it was so here.
  const written = readFileSync(held, 'utf8').trim().split('\n')
  for (const { email, names } of people) {
    const seen = written
      .map(
        (line) =>
          JSON.parse(line) as { do: string; list?: string; person?: { email: string; values: { FIRST: string } } },
      )
      .filter((one) => one.do === 'put' && one.list === 'l1' && one.person?.email === email)
      .map((one) => names.indexOf(one.person!.values.FIRST))
    expect(seen).toEqual(seen.toSorted((one, other) => one - other))
  }
}
