import { type LineObstacle, lineObstacle, type LineRoom } from '#core/look'
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

/** Why fields that are to stand in one line fit into none, however wide the form is; null where they do, or are not to. */
export function tooManyForLine(content: FormContent): LineObstacle | null {
  const obstacle = lineObstacle(content.look, lineRoomOf(content))
  return obstacle !== null && obstacle.mended === null ? obstacle : null
}
