import { computed, onScopeDispose, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { type FormContent, sameContent } from '#core/form'
import type { FormId, ThemeId } from '#core/ids'
import { mergeValues } from '#core/sync'
import { BY_THEME, keepSaved, type KeptDraft, readDraft, useLive, writeDraft } from '../data'
import { newId } from '../clock'

/** What is worked on: the content, and the theme it wears. */
interface InHand {
  content: FormContent
  theme: ThemeId | null
}

/** What belongs to a change and lies outside the form: the column of a field. Taken back and done again with it. */
export interface Beside {
  apply(): Promise<unknown>
  /** May find that it has to stay. */
  revert(): Promise<unknown>
}

interface Step {
  /** What the step did, for people: "Rewrite the heading". */
  name: string
  before: InHand
  after: InHand
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

/**
 * A form's draft in hand: every change is saved at once and can be undone and redone. Changes that another
 * tab makes come in as steps of their own.
 */
export function useDraft(
  id: MaybeRefOrGetter<FormId>,
  /** What a change of the content means for what lies outside the form. */
  besideOf: (before: FormContent, after: FormContent) => Beside | null = () => null,
) {
  // Shallow: a content inside a deep proxy could neither be copied nor stored.
  const inHand = shallowRef<InHand | null>(null)
  const done = shallowRef<Step[]>([])
  const undone = shallowRef<Step[]>([])
  // The database tells of a write some time after it, when the draft is ahead again: only a new mark of somebody else's is news.
  const kept = useLive(() => readDraft(toValue(id)), null as KeptDraft | null, [() => toValue(id)])
  let lastMark: string | null = null
  /** What the draft in hand began from: what others wrote since is not in it. */
  let base: KeptDraft | null = null

  watch(
    () => toValue(id),
    () => {
      inHand.value = null
      written = null
      done.value = []
      undone.value = []
    },
  )
  watch(
    kept,
    (news) => {
      if (news === null || news.form !== toValue(id)) return
      const isNew = news.mark !== lastMark
      if (news.by !== ME) written = null
      lastMark = news.mark
      base = news
      const kept = { content: news.draft, theme: news.theme }
      if (inHand.value === null) inHand.value = kept
      else if (isNew && news.by !== ME && !isSame(inHand.value, kept))
        remember(news.by === BY_THEME ? 'Change of the theme' : 'Change made elsewhere', kept, 'elsewhere')
    },
    { immediate: true },
  )

  /** Makes one change to a copy and keeps it. `part` groups changes that belong to one step; `theme` is put on with it. Resolves when it is kept. */
  function change(
    name: string,
    part: string,
    recipe: (draft: FormContent) => void,
    { theme = inHand.value?.theme ?? null, beside = null }: { theme?: ThemeId | null; beside?: Beside | null } = {},
  ): Promise<void> {
    if (inHand.value === null) return Promise.resolve()
    const after = { content: structuredClone(inHand.value.content), theme }
    recipe(after.content)
    if (isSame(after, inHand.value) && beside === null) return Promise.resolve()
    const besides = [besideOf(inHand.value.content, after.content), beside].filter((one) => one !== null)
    remember(name, after, part, besides)
    for (const { apply } of besides) keepBeside(apply)
    return save()
  }

  function remember(name: string, after: InHand, part: string, besides: readonly Beside[] = []): void {
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
    save()
    // Once the form is kept without it: whether a column may go depends on what forms fill.
    for (const { revert } of step.besides.toReversed()) keepBeside(revert)
  }

  /** Whether the step made last now is still the last whenever it is asked: until then, undo takes back just that. */
  function isStillLast(): () => boolean {
    const step = done.value.at(-1)
    return () => step !== undefined && done.value.at(-1) === step
  }

  function redo(): void {
    const step = undone.value.at(-1)
    if (step === undefined) return
    undone.value = undone.value.slice(0, -1)
    done.value = [...done.value, { ...step, at: 0 }]
    inHand.value = step.after
    for (const { apply } of step.besides) keepBeside(apply)
    save()
  }

  let saving: Promise<void> = Promise.resolve()
  let written: InHand | null = null

  /** What lies outside the form, kept after what was changed before. */
  function keepBeside(write: () => Promise<unknown>): void {
    saving = saving.then(() => keepSaved(`beside ${newId()}`, async () => void (await write())))
  }

  /**
   * Keeps what is in hand. Where the browser's database refuses, it is told, stays in hand, and is tried again. One
   * after the other: what a write found to be changed elsewhere is in hand before the next one is made.
   */
  function save(): Promise<void> {
    const form = toValue(id)
    saving = saving.then(() =>
      keepSaved(`draft ${form}`, async () => {
        const mine = inHand.value
        if (mine === null || mine === written || toValue(id) !== form) return
        const more = await writeDraft(form, { draft: mine.content, theme: mine.theme }, ME, base)
        written = mine
        if (more === null || inHand.value === null) return
        // Another browser's change came in between; both are kept, and both are shown.
        const both = mergeValues(
          { content: mine.content, theme: mine.theme },
          { content: inHand.value.content, theme: inHand.value.theme },
          { content: more.draft, theme: more.theme },
          'here',
        ) as InHand
        const isKept = inHand.value === mine
        remember('Change made elsewhere', both, 'elsewhere')
        if (isKept) written = both
      }),
    )
    return saving
  }

  /** Resolves once everything in hand is kept. */
  const whenKept = () => saving

  const onKey = (event: KeyboardEvent) => {
    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return
    event.preventDefault()
    if (event.shiftKey) redo()
    else undo()
  }
  addEventListener('keydown', onKey)
  onScopeDispose(() => removeEventListener('keydown', onKey))

  return {
    content: computed(() => inHand.value?.content ?? null),
    theme: computed(() => inHand.value?.theme ?? null),
    change,
    undo,
    isStillLast,
    redo,
    onKey,
    whenKept,
    undoName: computed(() => done.value.at(-1)?.name ?? null),
    redoName: computed(() => undone.value.at(-1)?.name ?? null),
  }
}

function isSame(one: InHand, other: InHand): boolean {
  return one.theme === other.theme && sameContent(one.content, other.content)
}

export type Draft = ReturnType<typeof useDraft>
