import type { FormContent } from '#core/form'
import type { FormId, ThemeId } from '#core/ids'
import { mergeValues } from '#core/sync'
import { newId } from '../clock'
import { database } from './database'

/** Who wrote a draft when a theme that it wears was changed or forgotten. */
export const BY_THEME = 'theme'
/** Who wrote a draft that came from another browser. */
export const BY_SYNC = 'sync'

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
 * meanwhile is none. What somebody else wrote since `basedOn` was read is kept as well, where it is about other parts.
 * Call it inside a transaction over forms, edits and themes, or on its own.
 *
 * @returns what is kept now, when that is more than what was given
 */
export async function writeDraft(
  form: FormId,
  { draft, theme }: Pick<KeptDraft, 'draft' | 'theme'>,
  by: string,
  basedOn: KeptDraft | null = null,
): Promise<Pick<KeptDraft, 'draft' | 'theme'> | null> {
  return database.transaction('rw', database.forms, database.edits, database.themes, async () => {
    const isKept = theme !== null && (await database.themes.get(theme)) !== undefined
    const wanted = { draft, theme: isKept ? theme : null }
    const now = basedOn === null ? null : await readDraft(form)
    const isOvertaken = now !== null && now.mark !== basedOn!.mark && now.by !== by
    const merged = isOvertaken
      ? (mergeValues(
          { draft: basedOn!.draft, theme: basedOn!.theme },
          wanted,
          { draft: now.draft, theme: now.theme },
          'here',
        ) as typeof wanted)
      : wanted
    await database.forms.update(form, merged)
    await database.edits.put({ form, mark: newId(), by })
    return isOvertaken ? merged : null
  })
}

/** The draft as it is kept, with its mark, both of one moment. */
export function readDraft(form: FormId): Promise<KeptDraft | null> {
  return database.transaction('r', database.forms, database.edits, async () => {
    const [kept, edit] = await Promise.all([database.forms.get(form), database.edits.get(form)])
    return kept === undefined
      ? null
      : { form, draft: kept.draft, theme: kept.theme, mark: edit?.mark ?? null, by: edit?.by ?? null }
  })
}
