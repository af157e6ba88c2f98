import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { SpotId } from '#core/ids'
import { caseIds, type Proof, type RehearsalCase, type Step, type ViewerId } from '#core/proof'
import { pagesToRehearse } from '#core/crawl'
import { clientFor, type Pairing } from '../client'
import { rehearsalSubject } from '#core/rehearsal'
import type { Spot } from '#core/spot'
import { isDemo, keepProof, readSetting, useWorkspace, writeSetting } from '../data'
import { useReceiver } from '../sync'
import type { SpotRehearsal } from './rehearse-spot'

/** With the receiver's browser, which has room for two; most of a rehearsal's time is waiting. */
const AT_ONCE = 2

export interface Rehearsing {
  spot: SpotId
  steps: readonly Step[]
  /** Its place among those that were asked for, from 1. */
  number: number
  of: number
}

/** The rehearsals that the owner asked for, in this tab: two spots at a time where no frames of it are needed. */
export const useRehearsal = defineStore('rehearsal', () => {
  const workspace = useWorkspace()
  const receiver = useReceiver()
  const going = shallowRef<readonly Rehearsing[]>([])
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
  const running = new Set<SpotRehearsal>()

  /** @param directAs the address that a service may be sent, where a form posts straight to one */
  async function start(spots: readonly SpotId[], directAs?: string): Promise<void> {
    if (going.value.length > 0 || spots.length === 0) return
    problem.value = null
    round.value = []
    isStopping.value = false
    isFraming.value = false
    picture.value = null
    const waiting = [...spots.entries()]
    const lanes: Promise<void>[] = []
    const goOn = async (): Promise<void> => {
      for (;;) {
        const next = isStopping.value || problem.value !== null ? undefined : waiting.shift()
        if (next === undefined) return
        const [at, spot] = next
        going.value = [...going.value, { spot, steps: [], number: at + 1, of: spots.length }]
        try {
          const proof = await rehearseOne(spot, directAs, () => {
            if (lanes.length < AT_ONCE) lanes.push(goOn())
          })
          round.value = [...round.value, proof]
          await keepProof(proof)
        } catch (error) {
          problem.value ??= error instanceof Error ? error.message : String(error)
        } finally {
          going.value = going.value.filter((one) => one.spot !== spot)
        }
      }
    }
    lanes.push(goOn())
    // One that begins meanwhile is waited for as well.
    for (const lane of lanes) await lane
    host.value?.replaceChildren()
  }

  /** @param mayShare called once it is clear that another can go on beside */
  async function rehearseOne(id: SpotId, directAs: string | undefined, mayShare: () => void): Promise<Proof> {
    const spot = workspace.spot(id)
    const form = spot === null ? null : workspace.form(spot.form)
    if (spot === null || form === null) throw new Error('The spot is not there any more.')
    const { pairing } = receiver
    if (pairing === null || receiver.publicUrl === null)
      throw new Error(
        isDemo
          ? 'In this demo there is no receiver to rehearse against. Start Ask Box with “npm start”, and it rehearses the same forms for real.'
          : 'Ask Box is not connected here: pair this browser by the address that the start printed.',
      )
    const subject = rehearsalSubject(plain(spot), {
      spots: plain(workspace.spots),
      sites: plain(workspace.sites),
      versionsOf: (of) => plain(workspace.versionsOf(of)),
      trialAt: (at) => plain(workspace.trials).find((one) => one.spot === at && one.ended === undefined),
      version: (of, number) => plain(workspace.allVersionsOf(of)).find((one) => one.number === number),
      list: (list) => plain(workspace.list(list)),
      mail: (list) => plain(workspace.mail(list)?.published ?? null),
      receiver: receiver.publicUrl,
    })
    if (directAs !== undefined) subject.directAs = directAs
    if (spot.code === 'rule') subject.morePages = await morePagesFor(spot, plain(pairing))
    const chosen = caseIds.filter((one) => cases.value.includes(one))
    // Most who open the workshop rehearse nothing.
    const { rehearseSpot } = await import('./rehearse-spot')
    const rehearsal = rehearseSpot({ subject, cases: chosen, pairing: plain(pairing) }, () => host.value, {
      begun: (hasBrowser) => hasBrowser && mayShare(),
      step: (step) =>
        (going.value = going.value.map((one) => (one.spot === id ? { ...one, steps: [...one.steps, step] } : one))),
      framed: () => (isFraming.value = true),
      picture: (viewer, address) => (picture.value = { viewer, address }),
    })
    running.add(rehearsal)
    try {
      return await rehearsal.proof
    } finally {
      running.delete(rehearsal)
    }
  }

  /** Further pages on which a rule should have put the form: by chance, of each group of its site. */
  async function morePagesFor(spot: Spot, pairing: Pairing): Promise<string[]> {
    const { newest } = await clientFor(pairing)
      .crawl(spot.site)
      .catch(() => ({ newest: null }))
    return pagesToRehearse(newest, spot, { site: workspace.site(spot.site)?.address ?? '', random: Math.random })
  }

  /** After the steps that are going on; what was seen until then is kept. */
  function stop(): void {
    isStopping.value = true
    for (const one of running) one.stop()
  }

  async function chooseCases(chosen: readonly RehearsalCase[]): Promise<void> {
    cases.value = [...chosen]
    await writeSetting('rehearsalCases', [...chosen])
  }

  const inUse = (all: readonly Spot[], isDirect: boolean) =>
    all.filter(({ state, form }) => {
      const version = workspace.latestVersion(form)
      return state === 'live' && version !== null && (version.content.direct !== undefined) === isDirect
    })
  /**
   * Of what is rehearsed with "everything": spots of forms in use that visitors can meet. What posts straight to a
   * service passes nothing of ours, and no made-up person is sent there unasked.
   */
  const rehearsable = (all: readonly Spot[]) => inUse(all, false).map(({ id }) => id)
  /** Live spots whose form posts straight to a service. */
  const direct = (all: readonly Spot[]) => inUse(all, true)

  return {
    /** Those that go on, in their order; none at rest. */
    going: computed(() => going.value),
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
    direct,
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
