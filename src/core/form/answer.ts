import { mailAnswerTextsOf, startTextsOf } from '#core/texts'
import type { Answer, AnswerCase, FormContent } from './content'

/** What a visitor is told in a case: in the owner's words, else in ours. */
export function answerTo({ answers, language }: Pick<FormContent, 'answers' | 'language'>, one: AnswerCase): Answer {
  const written = answers[one]
  if (written !== undefined) return written
  const ours = mailAnswerTextsOf(language)
  const { heading, message } = {
    joined: startTextsOf(language).joined,
    'already-on-list': startTextsOf(language).alreadyOnList,
    'confirm-first': ours.confirmFirst,
    'already-waiting': ours.alreadyWaiting,
    confirmed: ours.confirmed,
    'link-expired': ours.linkExpired,
    left: ours.left,
    'not-possible': ours.notPossible,
  }[one]
  return { show: 'message', heading, message, address: '' }
}
