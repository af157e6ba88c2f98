import { answerTextsOf, type Language } from '#core/texts'
import type { FormContent } from './content'

/** What visitors are told until the owner says it otherwise. */
export function startAnswers(language: Language): FormContent['answers'] {
  const { joined, alreadyOnList } = answerTextsOf(language)
  return {
    joined: { show: 'message', ...joined, address: '' },
    'already-on-list': { show: 'message', ...alreadyOnList, address: '' },
  }
}
