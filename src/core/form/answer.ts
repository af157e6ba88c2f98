import { addressProblem } from '#core/site'
import { answerTextsOf } from '#core/texts'
import type { Answer, AnswerCase, FormContent } from './content'

/** What a visitor is told in a case: in the owner's words, else in ours. */
export function answerTo(
  { answers, language }: Pick<FormContent, 'language'> & { answers: Partial<FormContent['answers']> },
  one: AnswerCase,
): Answer {
  const written = answers[one]
  if (written !== undefined) return written
  const ours = answerTextsOf(language)
  const { heading, message } = {
    joined: ours.joined,
    'already-on-list': ours.alreadyOnList,
    'confirm-first': ours.confirmFirst,
    'already-waiting': ours.alreadyWaiting,
    'message-sent': ours.messageSent,
    confirmed: ours.confirmed,
    'link-expired': ours.linkExpired,
    left: ours.left,
    'not-possible': ours.notPossible,
  }[one]
  return { show: 'message', heading, message, address: '' }
}

/**
 * Where an answer leads that is a page of the owner's: the published address, with the chosen values in its query. What
 * stands in the address by itself stays. Null where the answer is words, or has no address that could be opened.
 *
 * @param valueOf what was answered in a field, by its key; empty for nothing, which is not passed
 */
export function ownPageOf({ show, address, pass = [] }: Answer, valueOf: (key: string) => string): string | null {
  if (show !== 'address' || addressProblem(address) !== null) return null
  const page = new URL(address.trim())
  for (const key of pass) {
    const value = valueOf(key)
    if (value !== '') page.searchParams.set(key, value)
  }
  return page.href
}

const SHORT = 48

/** A page's address as people write it: without scheme, query and `www.`, and without its path where that is long. */
export function shortAddress(address: string): string {
  const { host, pathname } = new URL(address)
  const name = host.replace(/^www\./, '')
  const whole = name + pathname.replace(/\/$/, '')
  return whole.length <= SHORT ? whole : name
}
