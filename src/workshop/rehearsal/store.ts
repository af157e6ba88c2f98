import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { ProofId, SpotId } from '#core/ids'
import { caseIds, type Proof, type RehearsalCase, type Step, type ViewerId } from '#core/proof'
import { rehearsalSubject } from '#core/rehearsal'
import type { Spot } from '#core/spot'
import { clientFor } from '../client'
import { newId, now } from '../clock'
import { isDemo, keepProof, readSetting, useWorkspace, writeSetting } from '../data'
import { useReceiver } from '../sync'
import type { FromRehearsal, ToRehearsal } from '../workers/rehearsal'
import { framesIn } from './frames'

/** More than the waits of a step in a frame add up to. */
const STEP_MS = 60_000
/** A step that goes on is waited for so long after “Stop”. */
const STOP_MS = 8_000

export interface Rehearsing {
  spot: SpotId
  steps: readonly Step[]
  /** Its place among those that were asked for, from 1. */
  number: number
  of: number
}

/** The rehearsals that the owner asked for, one spot after the other, in this tab. */
export const useRehearsal = defineStore('rehearsal', () => {
  const workspace = useWorkspace()
  const receiver = useReceiver()
  const going = shallowRef<Rehearsing | null>(null)
  /** How the spots of this round went, so far. */
  const round = shallowRef<readonly Proof[]>([])
  const problem = ref<string | null>(null)
  const isStopping = ref(false)
  /** Where frames stand; see RehearsalDock. */
  const host = shallowRef<HTMLElement | null>(null)
  /** Whether pages are shown in frames here; the receiver's own browser shows nothing. */
  const isFraming = ref(false)
  /** What the receiver's browser was shown last. */
  const picture = shallowRef<{ viewer: ViewerId; address: string } | null>(null)
  const cases = ref<RehearsalCase[]>([...caseIds])
  void readSetting('rehearsalCases').then((kept) => kept !== undefined && (cases.value = [...kept]))
  let worker: Worker | null = null
  let code = ''
  let giveUp: (() => void) | null = null
  let stopping: ReturnType<typeof setTimeout> | undefined

  async function start(spots: readonly SpotId[]): Promise<void> {
    if (going.value !== null || spots.length === 0) return
    problem.value = null
    round.value = []
    isStopping.value = false
    isFraming.value = false
    picture.value = null
    for (const [at, spot] of spots.entries()) {
      going.value = { spot, steps: [], number: at + 1, of: spots.length }
      try {
        const proof = await rehearseOne(spot)
        round.value = [...round.value, proof]
        await keepProof(proof)
      } catch (error) {
        problem.value = error instanceof Error ? error.message : String(error)
        break
      }
      if (isStopping.value) break
    }
    going.value = null
    host.value?.replaceChildren()
  }

  function rehearseOne(id: SpotId): Promise<Proof> {
    const spot = workspace.spot(id)
    const form = spot === null ? null : workspace.form(spot.form)
    if (spot === null || form === null) return Promise.reject(new Error('The spot is not there any more.'))
    const { pairing } = receiver
    if (pairing === null || receiver.publicUrl === null)
      return Promise.reject(
        new Error(
          isDemo
            ? 'In this demo there is no receiver to rehearse against. Start Ask Box with “npm start”, and it rehearses the same forms for real.'
            : 'Ask Box is not connected here: pair this browser by the address that the start printed.',
        ),
      )
    const subject = rehearsalSubject(plain(spot), {
      spots: plain(workspace.spots),
      sites: plain(workspace.sites),
      versionsOf: (of) => plain(workspace.versionsOf(of)),
      list: (list) => plain(workspace.list(list)),
      mail: (list) => plain(workspace.mail(list)?.published ?? null),
      receiver: receiver.publicUrl,
    })
    const chosen = caseIds.filter((one) => cases.value.includes(one))
    const own = new Worker(new URL('../workers/rehearsal.ts', import.meta.url), { type: 'module' })
    worker = own
    const send = (message: ToRehearsal) => own.postMessage(message)
    const browser = framesIn(
      () => host.value,
      () => code,
      () => receiver.publicUrl ?? '',
    )
    return new Promise<Proof>((resolve, reject) => {
      giveUp = () => reject(new Error('It was stopped in the middle of a step, so nothing of it is kept.'))
      own.addEventListener('error', ({ message }) => reject(new Error(message || 'The rehearsal could not go on.')))
      own.addEventListener('message', ({ data }: MessageEvent<FromRehearsal>) => {
        switch (data.kind) {
          case 'begun':
            code = data.code
            break
          case 'step':
            if (going.value !== null) going.value = { ...going.value, steps: [...going.value.steps, data.step] }
            break
          case 'browse': {
            isFraming.value = true
            const { name, wish } = data.what
            const browsed = (result: unknown) => send({ kind: 'browsed', number: data.number, result })
            const limit = new Promise((resolve) =>
              setTimeout(() => resolve({ isTried: false, reason: 'The page was not done within a minute.' }), STEP_MS),
            )
            Promise.race([(browser[name] as (of: typeof wish) => Promise<unknown>)(wish), limit]).then(
              browsed,
              (error: unknown) =>
                browsed({ isTried: false, reason: error instanceof Error ? error.message : String(error) }),
            )
            break
          }
          case 'picture':
            picture.value = { viewer: data.viewer, address: `data:image/jpeg;base64,${data.jpeg}` }
            break
          case 'done':
            resolve(data.proof)
            break
          case 'failed':
            reject(new Error(data.message))
        }
      })
      send({
        kind: 'rehearse',
        pairing: plain(pairing),
        cases: chosen,
        subject,
        id: newId<ProofId>(),
        at: now(),
      })
    }).finally(() => {
      own.terminate()
      worker = null
      giveUp = null
      clearTimeout(stopping)
    })
  }

  /** After the step that is going on; what was seen until then is kept. */
  function stop(): void {
    isStopping.value = true
    worker?.postMessage({ kind: 'stop' } satisfies ToRehearsal)
    const [begun, { pairing }] = [code, receiver]
    // A step that never ends is not waited for.
    stopping = setTimeout(() => {
      if (giveUp === null) return
      giveUp()
      if (pairing !== null && begun !== '')
        void clientFor({ ...pairing })
          .endRehearsal(begun)
          .catch(() => {})
    }, STOP_MS)
  }

  async function chooseCases(chosen: readonly RehearsalCase[]): Promise<void> {
    cases.value = [...chosen]
    await writeSetting('rehearsalCases', [...chosen])
  }

  /**
   * Of what is rehearsed with "everything": spots of forms in use that visitors can meet. What posts straight to a
   * service passes nothing of ours, and no made-up person is sent there.
   */
  const rehearsable = (all: readonly Spot[]) =>
    all
      .filter(({ state, form }) => {
        const version = workspace.latestVersion(form)
        return state === 'live' && version !== null && version.content.direct === undefined
      })
      .map(({ id }) => id)

  return {
    now: computed(() => going.value),
    round: computed(() => round.value),
    problem,
    isStopping,
    isFraming,
    picture,
    host,
    cases,
    start,
    stop,
    chooseCases,
    rehearsable,
    dismiss: () => {
      round.value = []
      problem.value = null
    },
  }
})

/** A plain copy: what the store keeps watch over cannot travel to a worker. */
function plain<T>(value: T): T {
  return JSON.parse(JSON.stringify(value)) as T
}
