import type { OpenAPIHono } from '@hono/zod-openapi'
import { api, PRESENT_FOR_MS } from '#core/api'
import { described } from '../http/described'
import type { ReceiverParts, Subject } from '../subject'
import type { Values } from '../values'

const paths = described(api.presence)

/** Those who are at one place are few: more are not read. */
const MOST = 20

/** Who works on what at the moment: told by the workshops themselves, and forgotten by itself. */
export const presence: Subject = {
  name: 'presence',
  tables: [],
  routes: (routes, parts) => presenceRoutes(routes, parts),
}

interface Present {
  key: string
  name: string
}

/** Who is at places, by the tab that says so. */
interface Presences {
  keep(place: string, tab: string, who: Present, until: number): Promise<void>
  at(place: string): Promise<{ tab: string; who: Present }[]>
}

function presenceRoutes(routes: OpenAPIHono, { ledger, clock }: Pick<ReceiverParts, 'ledger' | 'clock'>): void {
  const alone = inMemory(clock.now)
  const shared = inStore(ledger.values)
  routes.openapi(paths.sayPresent, async (c) => {
    const { place, tab } = c.req.valid('json')
    const { id, name } = c.get('bearer')
    const presences = ledger.isShared ? shared : alone
    await presences.keep(place, tab, { key: id, name }, clock.now() + PRESENT_FOR_MS)
    const others = (await presences.at(place)).filter((one) => one.tab !== tab).map(({ who }) => who)
    return c.json({ others: others.slice(0, MOST) }, 200)
  })
}

/** Of a receiver by itself: to say so every few seconds would cost its disk a commit each time. */
function inMemory(now: () => number): Presences {
  const all = new Map<string, { place: string; tab: string; who: Present; until: number }>()
  return {
    async keep(place, tab, who, until) {
      for (const [name, one] of all) if (one.until <= now()) all.delete(name)
      all.set(`${place} ${tab}`, { place, tab, who, until })
    },
    at: async (place) => [...all.values()].filter((one) => one.place === place && one.until > now()),
  }
}

function inStore(values: Values): Presences {
  const beginning = (place: string) => `present ${place} `
  return {
    keep: (place, tab, who, until) => values.keep(beginning(place) + tab, who, until),
    async at(place) {
      const all = (await values.named(beginning(place))) as { name: string; value: Present }[]
      return all.map(({ name, value }) => ({ tab: name.slice(beginning(place).length), who: value }))
    },
  }
}
