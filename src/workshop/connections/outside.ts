import { useIntervalFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { ConnectionStanding, HandOverStanding, Outside } from '#core/api'
import type { HandOver } from '#core/connection'
import type { ConnectionId, HandOverId } from '#core/ids'
import { clientFor } from '../client'
import { useWorkspace } from '../data'
import { useReceiver } from '../sync'
import { useMembers } from '../people'
import { changeOf, stillWords, troubleOf } from './words'

/** How often it is looked again while something waits to be handed over. */
const AGAIN_MS = 2_000
const LOOK_EVERY_MS = 10 * 60_000

/** How connections and hand-overs stand at the receiver, as it said last. */
export const useOutside = defineStore('outside', () => {
  const receiver = useReceiver()
  const workspace = useWorkspace()
  const members = useMembers()
  const client = computed(() => (receiver.pairing === null ? null : clientFor(receiver.pairing)))
  const state = shallowRef<Outside | null>(null)
  /** Why it could not be asked. */
  const problem = ref<string | null>(null)
  let timer: ReturnType<typeof setTimeout> | null = null
  let lookedAt = -Infinity

  async function look(): Promise<void> {
    if (timer !== null) clearTimeout(timer)
    timer = null
    lookedAt = performance.now()
    if (client.value === null) return
    try {
      state.value = await client.value.outside()
      problem.value = null
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error)
    }
    if ((isGoing() || problem.value !== null) && timer === null) timer = setTimeout(() => void look(), AGAIN_MS)
  }
  /** Whether anybody is on their way who is not held up. */
  const isGoing = () =>
    state.value?.handOvers.some(({ id, waiting }) => {
      const by = workspace.handOver(id)?.connection
      return waiting > 0 && by !== undefined && connection(by)?.halted === null
    }) === true
  // What happens to people is what is handed over. Looked at now and again, however much happens.
  function lookSoon(): void {
    if (workspace.connections.length === 0 || timer !== null) return
    const waitMs = Math.max(0, lookedAt + AGAIN_MS - performance.now())
    timer = setTimeout(() => void look(), waitMs)
  }
  // The receiver looks at the services by itself, now and again.
  useIntervalFn(lookSoon, LOOK_EVERY_MS)
  watch([client, () => members.changes, () => workspace.connections.length], lookSoon, { immediate: true })

  const connection = (id: ConnectionId): ConnectionStanding | null =>
    state.value?.connections.find((one) => one.id === id) ?? null
  const handOver = (id: HandOverId): HandOverStanding | null =>
    state.value?.handOvers.find((one) => one.id === id) ?? null

  /** What keeps people from where they are handed on to; null while they get there. */
  function trouble({ id, connection: by, isPaused }: HandOver): string | null {
    const known = workspace.connection(by)
    if (isPaused || known === null) return null
    const [way, there] = [connection(by), handOver(id)]
    const isStill = way !== null && (there?.waiting ?? 0) > 0
    return troubleOf(way, known) ?? changeOf(there?.changed ?? null) ?? (isStill ? stillWords(way) : null)
  }

  return {
    trouble,
    client,
    state,
    problem,
    look,
    connection,
    handOver,
    services: computed(() => state.value?.services ?? []),
  }
})
