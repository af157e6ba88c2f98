import { proxy, type Remote, wrap } from 'comlink'
import Dexie, { type ObservabilitySet } from 'dexie'
import { defineStore } from 'pinia'
import { onScopeDispose, shallowRef } from 'vue'
import type { ListId, MemberId } from '#core/ids'
import type { Found, Member, MemberStatus, Wanted } from '#core/list'
import { isDemo, type QueuedCommand, touches } from '../data'
import { newId } from '../clock'
import { callWithTask, plainCopy, type Task } from '../worker-calls'
import type { Counts, Follow, GivenConsent, PeopleAsks, PeopleFunctions, PeopleTasks, PersonFacts } from './worker'

export type { Settled } from './batches'
export type { GivenConsent, PersonFacts } from './worker'
export type { ShownMember } from './pending'

/** Everybody, as the worker beside the interface tells. */
export const useMembers = defineStore('members', () => {
  const isReady = shallowRef(false)
  const counts = shallowRef<Counts>({})
  /** Counts up whenever somebody changed, and when those of late are known. */
  const changes = shallowRef(0)
  let people: { worker: Worker; functions: Remote<PeopleFunctions>; ready: Promise<void> } | null = null

  const onChange = (parts: ObservabilitySet) => {
    if (touches(parts, ['journal'])) void people?.functions.catchUp()
  }
  Dexie.on('storagemutated', onChange)
  onScopeDispose(() => {
    Dexie.on.storagemutated.unsubscribe(onChange)
    people?.worker.terminate()
  })

  function begin(): NonNullable<typeof people> {
    if (people !== null) return people
    // Vite needs literal worker options, hence both branches.
    const worker = isDemo
      ? new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'demo' })
      : new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })
    const functions = wrap<PeopleFunctions>(worker)
    const follow: Follow = (allAreHere, countsNow) => {
      isReady.value = allAreHere
      counts.value = countsNow
      changes.value += 1
    }
    people = { worker, functions, ready: functions.follow(proxy(follow)) }
    return people
  }
  /** Begins to read everybody; resolves when all are here. */
  const load = (): Promise<void> => begin().ready

  const ask = <Name extends keyof PeopleAsks>(
    name: Name,
    ...args: Parameters<PeopleAsks[Name]>
  ): Promise<ReturnType<PeopleAsks[Name]>> =>
    begin().functions.ask(name, plainCopy(args)) as Promise<ReturnType<PeopleAsks[Name]>>

  /** Has the worker do something long. Rejects with `Stopped` where it was stopped before anything was done. */
  const work = <Name extends keyof PeopleTasks>(
    name: Name,
    task: Task,
    ...args: Parameters<PeopleTasks[Name]>
  ): Promise<ReturnType<PeopleTasks[Name]>> =>
    callWithTask(
      task,
      (port) => begin().functions.work(name, port, plainCopy(args)) as Promise<ReturnType<PeopleTasks[Name]>>,
    )

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
    work,
    /** One person's page; null for who is not on the list. */
    person: (list: ListId, member: MemberId, queued: readonly QueuedCommand[]): Promise<PersonFacts | null> =>
      ask('person', list, member, queued),
    /** Every box that a member ticked, with the words beside it, newest first. */
    consentsOf: ({ list, id }: Pick<Member, 'list' | 'id'>): Promise<GivenConsent[]> => ask('consents', list, id),
  }
})

const noCounts: Record<MemberStatus, number> = { waiting: 0, confirmed: 0, left: 0, removed: 0, bounced: 0 }

export function newMemberId(): MemberId {
  return newId<MemberId>()
}
