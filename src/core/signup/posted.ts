import { keepableText, refusedCharacter } from '#core/text'
import type { PostedValues } from './rules'

export interface PostedProblem {
  field: string
  code: 'wrong-type' | 'repeated' | 'refused-character'
  message: string
}

const MOST_PROBLEMS = 20
const LONGEST_NAME_SHOWN = 100

/**
 * Checks the pairs of a post before anything else looks at them: every value one text, every name once,
 * no character that storage could change. Names that no field has are carried along and later ignored.
 */
export function readPosted(
  pairs: Iterable<[string, unknown]>,
): { ok: true; values: PostedValues } | { ok: false; problems: PostedProblem[] } {
  const values: PostedValues = Object.create(null)
  const problems: PostedProblem[] = []
  for (const [field, value] of pairs) {
    // A body of thousands of wrong names is not worth an answer a hundred times as long.
    if (problems.length >= MOST_PROBLEMS) break
    if (value === null || value === undefined) continue
    if (typeof value !== 'string') {
      problems.push({
        field: keepableText(field, LONGEST_NAME_SHOWN),
        code: 'wrong-type',
        message: 'This must be text.',
      })
    } else if (field in values) {
      problems.push({
        field: keepableText(field, LONGEST_NAME_SHOWN),
        code: 'repeated',
        message: 'This was sent more than once.',
      })
    } else if (refusedCharacter(value) !== null || refusedCharacter(field) !== null) {
      problems.push({
        field: keepableText(field, LONGEST_NAME_SHOWN),
        code: 'refused-character',
        message: 'This holds a character that cannot be kept. Type it again.',
      })
    } else {
      values[field] = value
    }
  }
  return problems.length > 0 ? { ok: false, problems } : { ok: true, values }
}
