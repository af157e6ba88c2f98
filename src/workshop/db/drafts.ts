import type { FormContent } from '#core/form'
import type { FormId } from '#core/ids'
import { newId } from '../moment'
import { database } from './database'

/** A draft with the mark of whoever wrote it last; a mark is never given twice. */
export interface KeptDraft {
  form: FormId
  draft: FormContent
  mark: string | null
  by: string | null
}

/** Keeps a draft and marks it as written by `by`, in one step. Call it inside a transaction over forms and edits, or on its own. */
export async function writeDraft(form: FormId, draft: FormContent, by: string): Promise<void> {
  await database.transaction('rw', database.forms, database.edits, async () => {
    await database.forms.update(form, { draft })
    await database.edits.put({ form, mark: newId(), by })
  })
}

/** The draft as it is kept, with its mark, both of one moment. */
export function readDraft(form: FormId): Promise<KeptDraft | null> {
  return database.transaction('r', database.forms, database.edits, async () => {
    const [kept, edit] = await Promise.all([database.forms.get(form), database.edits.get(form)])
    return kept === undefined ? null : { form, draft: kept.draft, mark: edit?.mark ?? null, by: edit?.by ?? null }
  })
}
