import { computed, ref, shallowRef } from 'vue'
import { decided, type ImportPlan, type KnownRule, type Target, type Undecided, undecidedIn } from '#core/import'
import type { List } from '#core/list'
import { type Brought, type DryRun, type FileLook, type FileReading, useMembers } from '../../people'
import { useBatchChanges } from '../batch-changes'
import { useLongWork } from '../long-work'

export type { Brought, DryRun, FileLook, FileReading, ShownRow, ShownVerdict } from '../../people'

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
  const tags = ref<string[]>([])
  const consent = ref('')
  const asksByMail = ref(false)
  const dry = shallowRef<DryRun | null>(null)
  const outcome = shallowRef<Brought | null>(null)
  let said: Partial<FileReading> = {}

  async function open(blob: Blob, name: string): Promise<void> {
    file.value = { blob, name }
    said = {}
    await lookAgain({})
  }

  /** Reads the beginning anew, as its owner says that it is written. */
  async function lookAgain(changes: Partial<FileReading>): Promise<void> {
    if (file.value === null) return
    said = { ...said, ...changes }
    // Of another kind, it is written some other way.
    if (changes.format !== undefined) said = { ...said, separator: undefined, head: undefined } as Partial<FileReading>
    dry.value = null
    outcome.value = null
    const { blob, name } = file.value
    const reading = said
    const answer = await work.run(`Reading “${name}”`, (following) =>
      members.work('lookAtFile', following, blob, list(), reading),
    )
    // Stopped, or another file by now.
    if (file.value?.blob !== blob || reading !== said) return
    if (answer === null) return look.value === null ? close() : undefined
    if ('problem' in answer) {
      problem.value = answer.problem.message
      look.value = null
      return
    }
    problem.value = ''
    look.value = answer
    targets.value = answer.matched
  }

  /** Says what one of the file's columns is for; what is known of its words is decided by itself. */
  function match(at: number, target: Target): void {
    const { columns, tallies } = look.value!
    targets.value = targets.value.with(at, decided(target, tallies[at], columns[at]!, list().columns))
    dry.value = null
  }

  /** Says what words or spellings of a column mean. */
  function decide(at: number, target: Target): void {
    targets.value = targets.value.with(at, target)
    dry.value = null
  }

  /** What is still to be decided before anybody comes in, by column. */
  const undecided = computed((): { column: string; what: Undecided }[] =>
    targets.value.flatMap((target, at) =>
      undecidedIn(target, look.value?.tallies[at], list().columns).map((what) => ({
        column: look.value!.columns[at]!,
        what,
      })),
    ),
  )

  const plan = computed((): ImportPlan => ({
    targets: targets.value,
    known: known.value || 'fill',
    tags: tags.value,
    status: status.value || 'confirmed',
  }))
  const asks = computed(() => asksByMail.value && status.value === 'waiting')
  const hasAddress = computed(() => targets.value.some(({ to }) => to === 'email'))

  async function tryIt(): Promise<void> {
    const [inHand, reading] = [file.value, look.value?.reading]
    if (inHand === null || reading === undefined) return
    outcome.value = null
    dry.value = await work.run(`Looking through “${inHand.name}”`, (following) =>
      members.work('dryRun', following, batches.pairing(), list(), { file: inHand.blob, reading, plan: plan.value }),
    )
  }

  async function bringIn(): Promise<void> {
    const [inHand, reading] = [file.value, look.value?.reading]
    if (inHand === null || reading === undefined || undecided.value.length > 0) return
    const about = {
      from: inHand.name.slice(0, 200),
      consent: consent.value.trim(),
      ...(asks.value && { asksByMail: true }),
    }
    outcome.value = await work.run(
      `Bringing “${inHand.name}” in`,
      (following) =>
        members.work('importFile', following, batches.pairing(), {
          ...{ file: inHand.blob, reading, plan: plan.value, list: list(), about },
        }),
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
    tags,
    consent,
    asksByMail,
    dry,
    outcome,
    work,
    hasAddress,
    undecided,
    open,
    lookAgain,
    match,
    decide,
    tryIt,
    bringIn,
    undo,
    close,
  }
}
export type ImportInHand = ReturnType<typeof useImport>
