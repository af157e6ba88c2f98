import { computed, type MaybeRefOrGetter, toValue } from 'vue'
import { type FormContent, tooWideForLine } from '#core/form'
import type { FormId, ThemeId } from '#core/ids'
import { type Beside, type Document, useDocument } from '../document'

/**
 * A form's draft in hand: its content, and the theme that it wears.
 *
 * @param besideOf what a change of the content means for other objects
 * @param tell what changed by itself with it
 */
export function useDraft(
  id: MaybeRefOrGetter<FormId>,
  besideOf: (before: FormContent, after: FormContent) => Beside | null = () => null,
  tell: (words: string) => void = () => {},
) {
  const document: Document<'form'> = useDocument('form', () => toValue(id), {
    besideOf: (before, after) => besideOf(before.draft, after.draft),
  })
  return {
    ...document,
    content: computed(() => document.parts.value?.draft ?? null),
    theme: computed(() => document.parts.value?.theme ?? null),
    /** Changes the content; `theme` is put on with it. */
    change: (
      name: string,
      part: string,
      recipe: (content: FormContent) => void,
      { theme, beside = null }: { theme?: ThemeId | null; beside?: Beside | null } = {},
    ) =>
      document.change(
        name,
        part,
        (parts) => {
          const couldStand = tooWideForLine(parts.draft) === null
          recipe(parts.draft)
          const needed = couldStand ? tooWideForLine(parts.draft) : null
          if (needed !== null) {
            parts.draft.look = { ...parts.draft.look, arrangement: 'stacked' }
            tell(`The fields stand under each other now: in one line they would need about ${needed} px.`)
          }
          if (theme !== undefined) parts.theme = theme
        },
        beside,
      ),
  }
}
export type Draft = ReturnType<typeof useDraft>
