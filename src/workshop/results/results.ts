import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import type { FormId, SpotId } from '#core/ids'
import { localTime, type LookedAt, type SignUpRow } from '#core/results'
import type { Seen } from '#core/api'
import { clientFor } from '../client'
import { useWorkspace } from '../data'
import { useAsked, useMembers } from '../people'
import { useReceiver } from '../sync'
import type { Period } from './period'
import { HERE } from './rhythm'

/** What forms brought, in sums: people as the journal here tells, views as the receiver counted them. */
export const useResults = defineStore('results', () => {
  const workspace = useWorkspace()
  const receiver = useReceiver()
  const isLooked = shallowRef(false)
  /** Until then no figure is whole: half of them would be false. */
  const isReady = computed(() => counted.value !== null && isLooked.value)
  const seen = shallowRef<Seen>({ rows: [], hours: [], since: [] })
  /** Why views could not be had. */
  const problem = shallowRef<string | null>(null)
  const members = useMembers()
  const isLoaded = shallowRef(false)
  const lookedAt = shallowRef<LookedAt | null>(null)
  let asked = 0

  const zones = computed(() =>
    Object.fromEntries(
      workspace.spots.map(({ id, site }): [SpotId, string] => [id, workspace.site(site)?.zone ?? 'UTC']),
    ),
  )
  const today = () => localTime(Date.now(), HERE).day

  /** Begins to count; from then on it follows. */
  const load = () => void (isLoaded.value = true)
  /** Has growth, hours and delays counted; from then on they follow. */
  const lookAtPeople = (looked: LookedAt) => void (lookedAt.value = looked)
  const counted = useAsked([isLoaded, () => members.changes, () => JSON.stringify(zones.value), lookedAt], () =>
    isLoaded.value ? members.ask('results', { zones: zones.value, zone: HERE }, lookedAt.value) : null,
  )
  const people = computed((): readonly SignUpRow[] => counted.value?.rows ?? [])
  /** Growth, hours and delays of what was looked at last; null before that. */
  const comings = computed(() => counted.value?.comings ?? null)

  /** Has the views of some days, day by day. */
  const look = ({ from, to }: Period) => had((client) => client.seen(from, to))
  /** Has the views of some times, each as one sum: what is not shown by day is not sent by day. */
  const lookOver = (times: readonly Period[]) =>
    had(async (client) => {
      const all = await Promise.all(times.map(({ from, to }) => client.seenOver(from, to)))
      return { ...all[0]!, rows: all.flatMap(({ rows }) => rows) }
    })

  async function had(asking: (client: ReturnType<typeof clientFor>) => Promise<Seen>): Promise<void> {
    const mine = (asked += 1)
    if (receiver.pairing === null) {
      isLooked.value = true
      return
    }
    try {
      const answer = await asking(clientFor(receiver.pairing))
      if (mine === asked) [seen.value, problem.value] = [answer, null]
    } catch (error) {
      if (mine === asked) problem.value = error instanceof Error ? error.message : String(error)
    }
    if (mine === asked) isLooked.value = true
  }

  const formOf = computed(() => new Map(workspace.spots.map(({ id, form }): [SpotId, FormId] => [id, form])))
  /** The day from which on each spot's views are counted. */
  const countedSince = computed(() => new Map(seen.value.since.map(({ spot, day }) => [spot, day])))

  return { people, comings, lookAtPeople, seen, problem, isReady, formOf, countedSince, load, look, lookOver, today }
})
