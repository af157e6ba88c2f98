import Dexie, { type ObservabilitySet } from 'dexie'
import { defineStore } from 'pinia'
import { computed, onScopeDispose, shallowRef, watch } from 'vue'
import type { FormId, SpotId } from '#core/ids'
import { localTime, type LookedAt, type ComingsAndGoings, type SignUpRow } from '#core/results'
import type { Seen } from '#core/api'
import { clientFor } from '../client'
import { isDemo, touches, useWorkspace } from '../data'
import { useReceiver } from '../sync'
import type { FromResults, ToResults } from '../workers/results'
import type { Period } from './period'
import { HERE } from './rhythm'

/** What forms brought, in sums: people as the journal here tells, views as the receiver counted them. */
export const useResults = defineStore('results', () => {
  const workspace = useWorkspace()
  const receiver = useReceiver()
  const people = shallowRef<readonly SignUpRow[]>([])
  /** Growth, hours and delays of what was looked at last; null before that. */
  const comings = shallowRef<ComingsAndGoings | null>(null)
  const isCounted = shallowRef(false)
  const isLooked = shallowRef(false)
  /** Until then no figure is whole: half of them would be false. */
  const isReady = computed(() => isCounted.value && isLooked.value)
  const seen = shallowRef<Seen>({ rows: [], hours: [], since: [] })
  /** Why views could not be had. */
  const problem = shallowRef<string | null>(null)
  let worker: Worker | null = null
  let asked = 0

  const zones = computed(() =>
    Object.fromEntries(
      workspace.spots.map(({ id, site }): [SpotId, string] => [id, workspace.site(site)?.zone ?? 'UTC']),
    ),
  )
  const today = () => localTime(Date.now(), HERE).day

  /** Begins to count; from then on it follows. */
  function load(): void {
    if (worker !== null) return
    worker = isDemo
      ? new Worker(new URL('../workers/results.ts', import.meta.url), { type: 'module', name: 'demo' })
      : new Worker(new URL('../workers/results.ts', import.meta.url), { type: 'module' })
    worker.addEventListener('message', ({ data }: MessageEvent<FromResults>) => {
      if (data.kind === 'comings-and-goings') {
        comings.value = data.those
        return
      }
      people.value = data.rows
      isCounted.value = true
    })
    catchUp()
  }
  const catchUp = () =>
    worker?.postMessage({ kind: 'count', zones: { ...zones.value }, zone: HERE } satisfies ToResults)
  const onChange = (parts: ObservabilitySet) => {
    if (touches(parts, ['journal'])) catchUp()
  }
  Dexie.on('storagemutated', onChange)
  onScopeDispose(() => {
    Dexie.on.storagemutated.unsubscribe(onChange)
    worker?.terminate()
  })
  watch(zones, (now, before) => JSON.stringify(now) !== JSON.stringify(before) && catchUp())

  /** Has growth, hours and delays counted; from then on they follow. */
  const lookAtPeople = (looked: LookedAt) =>
    worker?.postMessage({ kind: 'look', looked: JSON.parse(JSON.stringify(looked)) } satisfies ToResults)

  /** Has the views of some days. */
  async function look({ from, to }: Period): Promise<void> {
    const mine = (asked += 1)
    if (receiver.pairing === null) {
      isLooked.value = true
      return
    }
    try {
      const had = await clientFor(receiver.pairing).seen(from, to)
      if (mine === asked) [seen.value, problem.value] = [had, null]
    } catch (error) {
      if (mine === asked) problem.value = error instanceof Error ? error.message : String(error)
    }
    if (mine === asked) isLooked.value = true
  }

  const formOf = computed(() => new Map(workspace.spots.map(({ id, form }): [SpotId, FormId] => [id, form])))
  /** The day from which on each spot's views are counted. */
  const countedSince = computed(() => new Map(seen.value.since.map(({ spot, day }) => [spot, day])))

  return { people, comings, lookAtPeople, seen, problem, isReady, formOf, countedSince, load, look, today }
})
