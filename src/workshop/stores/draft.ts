import { computed, onScopeDispose, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { type FormContent, sameContent } from '#core/form'
import type { FormId } from '#core/ids'
import { useWorkspace } from './workspace'

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
/** The database tells of a write long before this, on a busy machine too. */
const OURS_FOR_MS = 10_000

/**
 * A form's draft in hand: every change is saved at once and can be undone and redone. Changes that another
 * tab makes come in as steps of their own.
 */
export function useDraft(id: MaybeRefOrGetter<FormId>) {
  const workspace = useWorkspace()
  const content = shallowRef<FormContent | null>(null)
  // Shallow: a content inside a deep proxy could neither be copied nor stored.
  const done = shallowRef<Step[]>([])
  const undone = shallowRef<Step[]>([])
  /** What this draft was lately, by its text: the database tells of it some time after it is so no more. */
  const lately = new Map<string, number>()

  watch(
    () => toValue(id),
    () => {
      content.value = null
      done.value = []
      undone.value = []
    },
  )
  watch(
    () => workspace.form(toValue(id))?.draft ?? null,
    (saved) => {
      if (saved === null) return
      if (content.value === null) content.value = saved
      else if (!isOurs(saved) && !sameContent(content.value, saved)) remember('Change made elsewhere', saved, 'elsewhere')
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
    become(after)
  }

  function become(next: FormContent): void {
    const now = Date.now()
    for (const one of [content.value, next]) if (one !== null) lately.set(JSON.stringify(one), now)
    content.value = next
  }

  function undo(): void {
    const step = done.value.at(-1)
    if (step === undefined) return
    done.value = done.value.slice(0, -1)
    undone.value = [...undone.value, step]
    become(step.before)
    save()
  }

  function redo(): void {
    const step = undone.value.at(-1)
    if (step === undefined) return
    undone.value = undone.value.slice(0, -1)
    done.value = [...done.value, { ...step, at: 0 }]
    become(step.after)
    save()
  }

  async function save(): Promise<void> {
    if (content.value === null) return
    await workspace.saveDraft(toValue(id), content.value)
  }

  function isOurs(saved: FormContent): boolean {
    for (const [text, at] of lately) if (Date.now() - at > OURS_FOR_MS) lately.delete(text)
    return lately.has(JSON.stringify(saved))
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
