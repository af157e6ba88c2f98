import type { Spot } from '#core/spot'
import { textsOf } from '#core/texts'
import type { FormContent } from './content'

/** What visitors are told of a form that takes no sign-ups: for now, or for good. The same wherever its code stands. */
export function closedWords(
  { language, texts }: Pick<FormContent, 'language' | 'texts'>,
  state: Spot['state'],
): string {
  const { paused, closed } = textsOf(language, texts)
  return state === 'paused' ? paused : closed
}
