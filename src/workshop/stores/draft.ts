import { computed, onScopeDispose, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { type FormContent, sameContent } from '#core/form'
import type { FormId } from '#core/ids'
import { type KeptDraft, readDraft, useLive, writeDraft } from '../db'
import { newId } from '../moment'

interface Step {
  /** What the step did, for people: "Rewrite the heading". */
  name: string
  before: FormContent
  after: FormContent
  /** Steps of the same place shortly after each other are one. */
  place: string
  at: number
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
export function useDraft(id: MaybeRefOrGetter<FormId>) {
  const content = shallowRef<FormContent | null>(null)
  // Shallow: a content inside a deep proxy could neither be copied nor stored.
  const done = shallowRef<Step[]>([])
  const undone = shallowRef<Step[]>([])
  // The database tells of a write some time after it, when the draft is ahead again: only a new mark of somebody else's is news.
  const kept = useLive(() => readDraft(toValue(id)), null as KeptDraft | null, [() => toValue(id)])
  let lastMark: string | null = null

  watch(
    () => toValue(id),
    () => {
      content.value = null
      done.value = []
      undone.value = []
    },
  )
  watch(
    kept,
    (news) => {
      if (news === null || news.form !== toValue(id)) return
      const isNew = news.mark !== lastMark
      lastMark = news.mark
      if (content.value === null) content.value = news.draft
      else if (isNew && news.by !== ME && !sameContent(content.value, news.draft)) remember('Change made elsewhere', news.draft, 'elsewhere')
    },
    { immediate: true },
  )

  /** Makes one change to a copy and keeps it. `place` groups changes that belong to one step. */
  function change(name: string, place: string, recipe: (draft: FormContent) => void): void {
    if (content.value === null) return
    const after = structuredClone(content.value)
    recipe(after)
    if (sameContent(after, content.value)) return
    remember(name, after, place)
    save()
  }

  function remember(name: string, after: FormContent, place: string): void {
    const before = content.value!
    const last = done.value.at(-1)
    const at = Date.now()
    if (last !== undefined && last.place === place && at - last.at < SAME_STEP_MS && undone.value.length === 0) {
      done.value = [...done.value.slice(0, -1), { ...last, after, at }]
    } else {
      done.value = [...done.value, { name, before, after, place, at }].slice(-MOST_STEPS)
    }
    undone.value = []
    content.value = after
  }

  function undo(): void {
    const step = done.value.at(-1)
    if (step === undefined) return
    done.value = done.value.slice(0, -1)
    undone.value = [...undone.value, step]
    content.value = step.before
    save()
  }

  function redo(): void {
    const step = undone.value.at(-1)
    if (step === undefined) return
    undone.value = undone.value.slice(0, -1)
    done.value = [...done.value, { ...step, at: 0 }]
    content.value = step.after
    save()
  }

  async function save(): Promise<void> {
    if (content.value !== null) await writeDraft(toValue(id), content.value, ME)
  }

  const onKey = (event: KeyboardEvent) => {
    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return
    event.preventDefault()
    if (event.shiftKey) redo()
    else undo()
  }
  addEventListener('keydown', onKey)
  onScopeDispose(() => removeEventListener('keydown', onKey))

  return {
    content,
    change,
    undo,
    redo,
    onKey,
    undoName: computed(() => done.value.at(-1)?.name ?? null),
    redoName: computed(() => undone.value.at(-1)?.name ?? null),
  }
}

export type Draft = ReturnType<typeof useDraft>
