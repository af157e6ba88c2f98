import type { SentMessage } from '#core/journal'
import { rowsText } from './rows'

/**
 * Messages to the owner as a table (RFC 4180), in the order given: what everybody is asked, then each further question that
 * somebody answered. Those that were erased are left out.
 */
export function messagesFile(messages: readonly SentMessage[]): string {
  const kept = messages.flatMap(({ at, joins, held, personal }) =>
    personal === null ? [] : [{ at, joins, held: held ?? '', ...personal }],
  )
  const labels = [...new Set(kept.flatMap(({ answers }) => answers.map(({ label }) => label)))]
  const rows = kept.map(({ at, email, subject, text, joins, held, page, answers }) => [
    ...[at, email?.typed ?? '', subject, text, joins ? 'yes' : 'no', held, page],
    ...labels.map((label) => answers.find((one) => one.label === label)?.answer ?? ''),
  ])
  return `\ufeff${rowsText([['At', 'From', 'Subject', 'Message', 'Joins', 'Held', 'Page', ...labels], ...rows])}`
}
