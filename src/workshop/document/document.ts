import { sameValue } from '#core/json'
import { computed, type ComputedRef, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { type Bodies, type Drafted, type Kind, mergeValues } from '#core/sync'
import { newId } from '../clock'
import {
  BY_THEME,
  database,
  draftedParts,
  draftTables,
  keepSaved,
  mustNotLookOn,
  type KeptDraft,
  objectTables,
  readDraft,
  useLive,
  writeDraft,
} from '../data'

/** What belongs to a change and lies in another object: the column of a field. Taken back and done again with it. */
export interface Beside {
  apply(): Promise<unknown>
  /** May find that it has to stay. */
  revert(): Promise<unknown>
}

interface Step<Parts> {
  /** What the step did, for people: "Rewrite the heading". */
  name: string
  before: Parts
  after: Parts
  /** Steps of the same part shortly after each other are one. */
  part: string
  at: number
  besides: readonly Beside[]
}

/** Typing goes on as one step while pauses stay below this. */
const SAME_STEP_MS = 1_500
const MOST_STEPS = 200
/** This tab, among all that write drafts. */
const ME = newId()

interface Options<One extends Kind> {
  /** What a change means for other objects. */
  besideOf?: (before: Drafted<One>, after: Drafted<One>) => Beside | null
  /** What an object is that was never kept: the first change makes it. */
  start?: () => Bodies[One] | null
}

/** What can be undone and redone of something in hand. */
export interface UndoRedo {
  undoName: ComputedRef<string | null>
  redoName: ComputedRef<string | null>
  undo(): void
  redo(): void
}

/** The drafted parts of one object in hand. */
export interface Document<One extends Kind> extends UndoRedo {
  /** Null while it is read, and where there is no such object. */
  parts: ComputedRef<Drafted<One> | null>
  /** Makes one change to a copy and keeps it. `part` groups changes that are one step. Resolves when it is kept. */
  change(name: string, part: string, recipe: (parts: Drafted<One>) => void, beside?: Beside | null): Promise<void>
  /** Whether the step made last now is still the last whenever it is asked: until then, undo takes back just that. */
  isStillLast(): () => boolean
  /** Resolves once everything in hand is kept. */
  whenKept(): Promise<void>
}

/**
 * An object of the owner's in hand: every change is saved at once and can be undone and redone. What another tab or
 * another browser makes of it comes in as a step of its own.
 */
export function useDocument<One extends Kind>(
  kind: One,
  key: MaybeRefOrGetter<string | null>,
  options: Options<One> = {},
): Document<One> {
  const inHand = shallowRef(openSession(kind, toValue(key), options))
  watch(
    () => toValue(key),
    (now) => (inHand.value = openSession(kind, now, options)),
    { flush: 'sync' },
  )
  // Undefined until it is read. The database tells of a write some time after it, when the draft is ahead again.
  const stored = useLive(
    async () => {
      const { key } = inHand.value
      return { key, draft: key === null ? null : await readDraft(kind, key) }
    },
    undefined as { key: string | null; draft: KeptDraft<One> | null } | undefined,
    [inHand],
  )
  watch(
    stored,
    (news) => {
      if (news !== undefined && news.key === inHand.value.key) inHand.value.take(news.draft)
    },
    { immediate: true },
  )
  return {
    parts: computed(() => inHand.value.parts.value),
    change: (...change) => inHand.value.change(...change),
    undo: () => inHand.value.undo(),
    redo: () => inHand.value.redo(),
    isStillLast: () => inHand.value.isStillLast(),
    whenKept: () => inHand.value.whenKept(),
    undoName: computed(() => inHand.value.undoName.value),
    redoName: computed(() => inHand.value.redoName.value),
  }
}

/** One object from its opening on. Another object gets another session; this one goes on saving what is not kept yet. */
function openSession<One extends Kind>(kind: One, key: string | null, { besideOf, start }: Options<One>) {
  type Parts = Drafted<One>
  // Shallow: a content inside a deep proxy could neither be copied nor stored.
  const inHand = shallowRef<Parts | null>(null)
  const done = shallowRef<Step<Parts>[]>([])
  const undone = shallowRef<Step<Parts>[]>([])
  const isAbsent = shallowRef(false)
  /** What is kept, as this session wrote or read it last: what is in hand differs from it by what is not kept yet. */
  let common: KeptDraft<One> | null = null
  let startBody: Bodies[One] | null = null
  /** What lies in other objects and is not kept yet. */
  let besides: (() => Promise<unknown>)[] = []
  let saving: Promise<void> = Promise.resolve()

  const started = () => {
    const body = isAbsent.value ? (start?.() ?? null) : null
    return body === null ? null : draftedParts(kind, body)
  }
  const parts = computed(() => inHand.value ?? started())

  /** Told what is kept; null where nothing is. */
  function take(news: KeptDraft<One> | null): void {
    if (news === null) {
      isAbsent.value = common === null
      return
    }
    isAbsent.value = false
    if (common === null && inHand.value === null) {
      common = news
      inHand.value = draftedParts(kind, news.body)
    } else if (news.mark !== common?.mark) void catchUp()
  }

  /** News may be older than what was written here since: what is kept is read again, in its turn with the writes. */
  function catchUp(): Promise<void> {
    saving = saving.then(async () => {
      const now = key === null ? null : await readDraft(kind, key).catch(() => null)
      if (now !== null && now.mark !== common?.mark) follow(now)
    })
    return saving
  }

  /** Takes in what others made of it, beside what is in hand and not kept yet. */
  function follow(now: KeptDraft<One>): void {
    const before = common?.body ?? startBody
    const theirs = draftedParts(kind, now.body)
    common = now
    const mine = inHand.value
    const both =
      mine === null || before === null
        ? theirs
        : (mergeValues(draftedParts(kind, before), mine, theirs, 'here') as Parts)
    if (mine === null) inHand.value = both
    else if (!sameValue(mine, both))
      remember(now.by === BY_THEME ? 'Change of the theme' : 'Change made elsewhere', both, 'elsewhere')
  }

  const change: Document<One>['change'] = async (name, part, recipe, beside = null) => {
    mustNotLookOn()
    const before = parts.value
    if (before === null) return
    const after = structuredClone(before)
    recipe(after)
    if (sameValue(after, before) && beside === null) return
    const belonging = [besideOf?.(before, after) ?? null, beside].filter((one) => one !== null)
    if (inHand.value === null) startBody = start?.() ?? null
    inHand.value ??= before
    remember(name, after, part, belonging)
    besides.push(...belonging.map(({ apply }) => apply))
    await save()
  }

  function remember(name: string, after: Parts, part: string, besides: readonly Beside[] = []): void {
    const before = inHand.value!
    const last = done.value.at(-1)
    const at = Date.now()
    if (last !== undefined && last.part === part && at - last.at < SAME_STEP_MS && undone.value.length === 0) {
      done.value = [...done.value.slice(0, -1), { ...last, after, at, besides: [...last.besides, ...besides] }]
    } else {
      done.value = [...done.value, { name, before, after, part, at, besides }].slice(-MOST_STEPS)
    }
    undone.value = []
    inHand.value = after
  }

  function undo(): void {
    const step = done.value.at(-1)
    if (step === undefined) return
    done.value = done.value.slice(0, -1)
    undone.value = [...undone.value, step]
    inHand.value = step.before
    besides.push(...step.besides.toReversed().map(({ revert }) => revert))
    void save()
  }

  function redo(): void {
    const step = undone.value.at(-1)
    if (step === undefined) return
    undone.value = undone.value.slice(0, -1)
    done.value = [...done.value, { ...step, at: 0 }]
    inHand.value = step.after
    besides.push(...step.besides.map(({ apply }) => apply))
    void save()
  }

  /**
   * Keeps what is in hand, with what belongs to it in other objects, whole or not at all. Where the browser's database
   * refuses, it is told, stays in hand, and is tried again. One after the other: what a write found to be changed
   * elsewhere is in hand before the next one is made.
   */
  function save(): Promise<void> {
    saving = saving.then(() =>
      keepSaved(`${kind} ${key}`, async () => {
        const mine = inHand.value
        if (key === null || mine === null || (besides.length === 0 && isKept(mine))) return
        const belonging = besides
        const tables = belonging.length === 0 ? draftTables(kind) : objectTables()
        const written = await database.transaction('rw', tables, async () => {
          const written = await writeDraft(kind, key, mine, { by: ME, basedOn: common, start: startBody })
          // After the object itself: whether a column may go depends on what forms fill.
          for (const write of belonging) await write()
          return written
        })
        besides = besides.slice(belonging.length)
        if (written === null) return
        common = written.kept
        takeWritten(mine, draftedParts(kind, written.kept.body), written.isMerged)
      }),
    )
    return saving
  }

  const isKept = (parts: Parts) => common !== null && sameValue(parts, draftedParts(kind, common.body))

  /**
   * What was kept may be otherwise than what was given to be kept: somebody's change came in between, which is a step, or what
   * it refers to is gone. It is shown with what was done here meanwhile.
   */
  function takeWritten(given: Parts, kept: Parts, isMerged: boolean): void {
    if (inHand.value === null || sameValue(given, kept)) return
    const both = mergeValues(given, inHand.value, kept, 'here') as Parts
    if (isMerged) remember('Change made elsewhere', both, 'elsewhere')
    else inHand.value = both
  }

  function isStillLast(): () => boolean {
    const step = done.value.at(-1)
    return () => step !== undefined && done.value.at(-1) === step
  }

  return {
    key,
    parts,
    take,
    change,
    undo,
    redo,
    isStillLast,
    whenKept: () => saving,
    undoName: computed(() => done.value.at(-1)?.name ?? null),
    redoName: computed(() => undone.value.at(-1)?.name ?? null),
  }
}
