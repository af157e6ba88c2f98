import { type LineRoom, lineTooWide } from '#core/look'
import type { FormContent } from './content'

/** What stands in the row of a form whose fields stand in one line, and which share of its width the row has. */
export function lineRoomOf({ fields, words, illustration, look }: FormContent): LineRoom {
  const row = fields.filter(
    ({ kind }) => kind !== 'hidden' && kind !== 'consent' && kind !== 'join-box' && kind !== 'topics',
  )
  const isAside = illustration !== null && ['start', 'end'].includes(look.picture?.place ?? '')
  // As `roomy-rules` share the width out.
  const share = isAside ? 0.54 : look.words === 'beside' ? 0.6 : 1
  return { fields: row.length, button: words.button, share }
}

/** How wide one line would have to be, in CSS pixels, where that is more than any form is; null where it fits, or is not wanted. */
export const tooWideForLine = (content: FormContent): number | null => lineTooWide(content.look, lineRoomOf(content))
