import Dexie, { type ObservabilitySet } from 'dexie'
import { defineStore } from 'pinia'
import { onScopeDispose, shallowRef } from 'vue'
import type { ListId, MemberId } from '#core/ids'
import type { Found, Member, MemberStatus, Wanted } from '#core/list'
import { isDemo, type QueuedCommand, touches } from '../data'
import { newId } from '../clock'
import type { Counts, FromPeople, GivenConsent, PeopleAsks, PeopleTasks, Person, ToPeople } from '../workers/people'

export type { Settled } from '../workers/batches'
export type { GrowthDay } from '../workers/growth'
export type { GivenConsent, Person } from '../workers/people'
export type { ShownMember } from '../workers/pending'

interface Waiting {
  resolve(result: never): void
  reject(reason: Error): void
  tell?: ((share: number) => void) | undefined
}

/** What a task of the worker is told how far it is by, and ended with. */
export interface Following {
  /** 0 to 1. */
  tell(share: number): void
  signal: AbortSignal
}
/** Rejects what its owner stopped. */
export class StoppedByOwner extends Error {}

/** Everybody, as the worker beside the interface tells. */
export const useMembers = defineStore('members', () => {
  const isReady = shallowRef(false)
  const counts = shallowRef<Counts>({})
  /** Counts up whenever somebody changed, and when those of late are known. */
  const changes = shallowRef(0)
  const waiting = new Map<number, Waiting>()
  let asked = 0
  let worker: Worker | null = null
  let ready: Promise<void> | null = null
  let becomeReady = () => {}

  const onChange = (parts: ObservabilitySet) => {
    if (worker !== null && touches(parts, ['journal'])) send({ kind: 'catch-up' })
  }
  Dexie.on('storagemutated', onChange)
  onScopeDispose(() => {
    Dexie.on.storagemutated.unsubscribe(onChange)
    worker?.terminate()
  })

  const send = (message: ToPeople) => worker!.postMessage(message)

  /** Begins to read everybody; resolves when all are here. */
  function load(): Promise<void> {
    if (ready !== null) return ready
    ready = new Promise((resolve) => (becomeReady = resolve))
    // Their options are read when it is built, so there are two.
    worker = isDemo
      ? new Worker(new URL('../workers/people.ts', import.meta.url), { type: 'module', name: 'demo' })
      : new Worker(new URL('../workers/people.ts', import.meta.url), { type: 'module' })
    worker.addEventListener('message', ({ data }: MessageEvent<FromPeople>) => {
      if (data.kind === 'changed') {
        isReady.value = data.isReady
        counts.value = data.counts
        changes.value += 1
        if (data.isReady) becomeReady()
        return
      }
      const call = waiting.get(data.n)
      if (data.kind === 'share') {
        call?.tell?.(data.share)
        return
      }
      waiting.delete(data.n)
      if (data.kind === 'answer') call?.resolve(data.result as never)
      else call?.reject(data.isStopped ? new StoppedByOwner(data.message) : new Error(data.message))
    })
    send({ kind: 'catch-up' })
    return ready
  }

  function ask<Name extends keyof PeopleAsks>(
    name: Name,
    ...args: Parameters<PeopleAsks[Name]>
  ): Promise<ReturnType<PeopleAsks[Name]>> {
    void load()
    return new Promise((resolve, reject) => {
      const n = (asked += 1)
      waiting.set(n, { resolve, reject })
      send({ kind: 'ask', n, name, args: args.map(plain) })
    })
  }

  function work<Name extends keyof PeopleTasks>(
    name: Name,
    { tell, signal }: Following,
    ...args: Parameters<PeopleTasks[Name]>
  ): Promise<ReturnType<PeopleTasks[Name]>> {
    void load()
    return new Promise((resolve, reject) => {
      const n = (asked += 1)
      waiting.set(n, { resolve, reject, tell })
      signal.addEventListener('abort', () => send({ kind: 'stop', n }), { once: true })
      send({ kind: 'task', n, name, args: args.map(plain) })
    })
  }

  return {
    isReady,
    changes,
    load,
    /** Those who are wanted, with what is on its way laid over. Until everybody is here, those who joined of late. */
    find: (wanted: Wanted, queued: readonly QueuedCommand[] = []): Promise<Found> => ask('find', wanted, queued),
    /** Who has an address on a list, in whatever status. */
    withAddress: (list: ListId, compared: string): Promise<Member | null> => ask('withAddress', list, compared),
    /** How many of a list have each status; null until that is known, if only from the last time. */
    countsOf(list: ListId): Record<MemberStatus, number> | null {
      return counts.value[list] ?? (isReady.value ? noCounts : null)
    },
    ask,
    /** Has the worker do something long. Rejects with `StoppedByOwner` where it was stopped before anything was done. */
    work,
    /** One person's page; null for who is not on the list. */
    person: (list: ListId, member: MemberId, queued: readonly QueuedCommand[]): Promise<Person | null> =>
      ask('person', list, member, queued),
    /** Every box that a member ticked, with the words beside it, newest first. */
    consentsOf: ({ list, id }: Pick<Member, 'list' | 'id'>): Promise<GivenConsent[]> => ask('consents', list, id),
  }
})

/** Plain copies: what the stores keep watch over cannot travel to a worker. */
function plain(value: unknown): unknown {
  return value instanceof Blob ? value : (JSON.parse(JSON.stringify(value)) as unknown)
}

const noCounts: Record<MemberStatus, number> = { waiting: 0, confirmed: 0, left: 0, removed: 0, bounced: 0 }

export function newMemberId(): MemberId {
  return newId<MemberId>()
}
