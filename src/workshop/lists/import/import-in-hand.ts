import { computed, ref, shallowRef } from 'vue'
import type { BatchProgress } from '#core/api'
import { type ImportPlan, type KnownRule, type Target } from '#core/import'
import type { List } from '#core/list'
import type { DryRun, FileLook, Reading } from '../../workers/imports'
import { useBatchChanges } from '../batch-changes'
import { useLongWork } from '../long-work'
import { useMembers } from '../members'

export type { DryRun, FileLook, Reading, ShownRow, ShownVerdict } from '../../workers/imports'

/** A file on its way into a list: looked at, matched, tried without changing anybody, then brought in. */
export function useImport(list: () => List) {
  const members = useMembers()
  const work = useLongWork()
  const batches = useBatchChanges(work)
  const file = shallowRef<{ blob: Blob; name: string } | null>(null)
  const look = shallowRef<FileLook | null>(null)
  const problem = ref('')
  const targets = shallowRef<readonly Target[]>([])
  const known = ref<KnownRule | ''>('fill')
  const status = ref<'confirmed' | 'waiting' | ''>('confirmed')
  const dayOrder = ref<ImportPlan['dayOrder'] | ''>('day-month')
  const tags = ref<string[]>([])
  const consent = ref('')
  const asksByMail = ref(false)
  const dry = shallowRef<DryRun | null>(null)
  const outcome = shallowRef<BatchProgress | null>(null)
  let said: Partial<Reading> = {}

  async function open(blob: Blob, name: string): Promise<void> {
    file.value = { blob, name }
    said = {}
    await lookAgain({})
  }

  /** Reads the beginning anew, as its owner says that it is written. */
  async function lookAgain(changes: Partial<Reading>): Promise<void> {
    if (file.value === null) return
    said = { ...said, ...changes }
    // Of another kind, it is written some other way.
    if (changes.format !== undefined) said = { ...said, separator: undefined, hasHead: undefined } as Partial<Reading>
    dry.value = null
    outcome.value = null
    const answer = await members.ask('lookAtFile', file.value.blob, list(), said)
    if ('problem' in answer) {
      problem.value = answer.problem.message
      look.value = null
      return
    }
    problem.value = ''
    look.value = answer
    targets.value = answer.matched.targets
    dayOrder.value = answer.matched.dayOrder
  }

  /** Says what one of the file's columns is for. */
  function match(at: number, target: Target): void {
    targets.value = targets.value.with(at, target)
    dry.value = null
  }

  const plan = computed((): ImportPlan => ({
    targets: targets.value,
    known: known.value || 'fill',
    tags: tags.value,
    status: status.value || 'confirmed',
    dayOrder: dayOrder.value || 'day-month',
  }))
  const asks = computed(() => asksByMail.value && status.value === 'waiting')
  const hasAddress = computed(() => targets.value.some(({ to }) => to === 'email'))

  async function tryIt(): Promise<void> {
    const [inHand, reading] = [file.value, look.value?.reading]
    if (inHand === null || reading === undefined) return
    outcome.value = null
    dry.value = await work.run(`Looking through “${inHand.name}”`, (following) =>
      members.work('dryRun', following, inHand.blob, reading, plan.value, list()),
    )
  }

  async function bringIn(): Promise<void> {
    const [inHand, reading] = [file.value, look.value?.reading]
    if (inHand === null || reading === undefined) return
    const about = {
      from: inHand.name.slice(0, 200),
      consent: consent.value.trim(),
      ...(asks.value && { asksByMail: true }),
    }
    outcome.value = await work.run(
      `Bringing “${inHand.name}” in`,
      (following) =>
        members.work('importFile', following, batches.pairing(), inHand.blob, reading, plan.value, list(), about),
      true,
    )
  }

  async function undo(): Promise<void> {
    const done = outcome.value
    if (done === null || (await batches.undo(done.id)) === null) return
    outcome.value = null
    dry.value = null
  }

  function close(): void {
    file.value = null
    look.value = null
    dry.value = null
    outcome.value = null
    problem.value = ''
  }

  return {
    file,
    look,
    problem,
    targets,
    known,
    status,
    dayOrder,
    tags,
    consent,
    asksByMail,
    dry,
    outcome,
    work,
    hasAddress,
    open,
    lookAgain,
    match,
    tryIt,
    bringIn,
    undo,
    close,
  }
}
export type ImportInHand = ReturnType<typeof useImport>
