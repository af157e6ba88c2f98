import { readFileSync } from 'node:fs'
import type { Outside } from '#core/api'
import { type Connection, type HandOver, shippedServices } from '#core/connection'
import type { ConnectionId, HandOverId, ListId } from '#core/ids'
import { startBox, type RunningBox } from '../programs'
import { addCrowd, LIST } from './crowd'
import { load } from './load'

const connectionId = 'benchconnection' as ConnectionId
const handOverId = 'benchhandover' as HandOverId
const ROUNDS = 3

export interface HandOverFigures {
  /** Of each state of the service: sign-ups at 200 a second with hand-over on to those without, and 99 in 100 of their answers. */
  states: { name: string; busy: number; wait: number }[]
  perSecond: number
  /** Of the receiver: what it held at most while all waited and went, and before. */
  megabytes: { before: number; most: number }
}

/** Hands a list over to the stand-in service while it works, is down, slow or limited; then many at once. */
export async function measureHandOvers(people: number): Promise<HandOverFigures> {
  const box = await startBox({ withService: true })
  try {
    const api = callerOf(box)
    const target = `${box.workshop.replace('localhost', '127.0.0.1')}/join/firstfrost`
    const sign = () => load(target, { seconds: 5, connections: 20, rate: 200 })
    await sign()
    let revision = await connect(api, box)
    const pause = async (isPaused: boolean) => {
      const [taken] = await change(api, [{ kind: 'handOver', base: revision, body: handOver({ isPaused }) }])
      revision = taken!.revision
    }
    const states: HandOverFigures['states'] = []
    for (const name of ['well', 'down', 'slow', 'rate-limited']) {
      if (name !== 'well') await trouble(box, name, true)
      const ratios: { busy: number; wait: number }[] = []
      for (let round = 1; round <= ROUNDS; round++) {
        await pause(false)
        const on = await sign()
        await pause(true)
        const off = await sign()
        ratios.push({ busy: on.perSecond / off.perSecond, wait: on.percentile(99) / off.percentile(99) })
      }
      const middle = (part: 'busy' | 'wait') => ratios.map((one) => one[part]).sort((a, b) => a - b)[ROUNDS >> 1]!
      states.push({ name, busy: middle('busy'), wait: middle('wait') })
      if (name !== 'well') await trouble(box, name, false)
    }
    await pause(false)
    await drained(api)
    await addCrowd(box, people)
    const before = residentMegabytes(box)
    const start = performance.now()
    await api('POST', `/hand-overs/${handOverId}/begin`)
    let most = before
    await drained(api, () => (most = Math.max(most, residentMegabytes(box))))
    return { states, perSecond: (people / (performance.now() - start)) * 1000, megabytes: { before, most } }
  } finally {
    await box.stop()
  }
}

type Call = <T>(method: string, path: string, body?: unknown) => Promise<T>

function callerOf(box: RunningBox): Call {
  const headers = { Authorization: `Bearer ${box.key}`, 'Content-Type': 'application/json' }
  return async <T>(method: string, path: string, body?: unknown) => {
    const response = await fetch(`${box.workshop}/api${path}`, {
      method,
      headers,
      ...(body !== undefined && { body: JSON.stringify(body) }),
    })
    if (!response.ok) throw new Error(await response.text())
    return (await response.json()) as T
  }
}

const handOver = (changes: Partial<HandOver> = {}): HandOver => ({
  id: handOverId,
  list: LIST as ListId,
  connection: connectionId,
  target: { id: 'l1', name: 'Observatory news' },
  fields: [{ column: 'first-name', key: 'FIRST', name: 'First name' }],
  sendsTags: true,
  moment: 'joined',
  confirmsThere: false,
  isPaused: false,
  createdAt: '2026-11-01T00:00:00.000Z',
  ...changes,
})

async function change(api: Call, changes: { kind: string; base: number; body: { id: string } }[]) {
  const { outcomes } = await api<{ outcomes: { ok: boolean; revision: number }[] }>('POST', '/changes', {
    changes: changes.map((one) => ({ ...one, key: one.body.id })),
  })
  if (outcomes.some(({ ok }) => !ok)) throw new Error(JSON.stringify(outcomes))
  return outcomes
}

/** @returns the hand-over's revision */
async function connect(api: Call, box: RunningBox): Promise<number> {
  const [service] = shippedServices(box.service)
  const connection: Connection = {
    id: connectionId,
    name: 'Bench',
    way: { kind: 'api', service: service!, asked: {} },
    isRehearsed: false,
    createdAt: '2026-11-01T00:00:00.000Z',
  }
  const taken = await change(api, [
    { kind: 'connection', base: 0, body: connection },
    { kind: 'handOver', base: 0, body: handOver({ isPaused: true }) },
  ])
  await api('PUT', `/connections/${connectionId}/key`, { key: 'lantern-demo-key' })
  return taken[1]!.revision
}

async function trouble(box: RunningBox, name: string, isOn: boolean): Promise<void> {
  const response = await fetch(`${box.service}/lantern/own/trouble`, {
    method: 'POST',
    redirect: 'manual',
    body: new URLSearchParams({ trouble: name, on: isOn ? 'yes' : 'no' }),
  })
  if (response.status >= 400) throw new Error(await response.text())
}

/** Until nobody waits any more. */
async function drained(api: Call, looked: () => void = () => {}): Promise<void> {
  for (;;) {
    const { handOvers } = await api<Outside>('GET', '/outside')
    looked()
    if (handOvers.find(({ id }) => id === handOverId)!.waiting === 0) return
    await new Promise((resolve) => setTimeout(resolve, 500))
  }
}

function residentMegabytes({ receiver }: RunningBox): number {
  return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${receiver.pid}/status`, 'utf8'))![1]) / 1024
}
