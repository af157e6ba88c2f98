import type { FormContent } from '#core/form'
import type { FormId, ThemeId } from '#core/ids'
import { newId } from '../moment'
import { database } from './database'

/** Who wrote a draft when a theme that it wears was changed or forgotten. */
export const BY_THEME = 'theme'

/** A draft with the mark of whoever wrote it last; a mark is never given twice. */
export interface KeptDraft {
  form: FormId
  draft: FormContent
  theme: ThemeId | null
  mark: string | null
  by: string | null
}

/**
 * Keeps a draft, and the theme it wears, and marks it as written by `by`, in one step. A theme that was forgotten
 * meanwhile is none. Call it inside a transaction over forms, edits and themes, or on its own.
 */
export async function writeDraft(form: FormId, { draft, theme }: Pick<KeptDraft, 'draft' | 'theme'>, by: string): Promise<void> {
  await database.transaction('rw', database.forms, database.edits, database.themes, async () => {
    const isKept = theme !== null && (await database.themes.get(theme)) !== undefined
    await database.forms.update(form, { draft, theme: isKept ? theme : null })
    await database.edits.put({ form, mark: newId(), by })
  })
}

/** The draft as it is kept, with its mark, both of one moment. */
export function readDraft(form: FormId): Promise<KeptDraft | null> {
  return database.transaction('r', database.forms, database.edits, async () => {
    const [kept, edit] = await Promise.all([database.forms.get(form), database.edits.get(form)])
    return kept === undefined ? null : { form, draft: kept.draft, theme: kept.theme, mark: edit?.mark ?? null, by: edit?.by ?? null }
  })
}
