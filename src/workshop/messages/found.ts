import type { SentMessage } from '#core/journal'
import type { KeptMessage } from '../data'

/** Messages in which all of some words stand, newest first. */
export function foundMessages(messages: readonly KeptMessage[], words: string): KeptMessage[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean)
  return messages
    .filter(({ message }) => {
      const text = wordsOf(message)
      return wanted.every((word) => text.includes(word))
    })
    .toSorted((one, other) => other.n - one.n)
}

function wordsOf({ personal }: SentMessage): string {
  if (personal === null) return ''
  const { email, subject, text, answers } = personal
  return [email?.typed ?? '', subject, text, ...answers.map(({ answer }) => answer)].join('\n').toLowerCase()
}

/** Why one is held back, for the owner. */
export const heldWords: Record<NonNullable<SentMessage['held']>, string> = {
  trap: 'It filled in what only programs see.',
  'too-fast': 'It was sent faster than the form’s guard lets through.',
  'throw-away': 'Its address is of a throw-away mailbox.',
  alike: 'The same text came before, more than twice in a week.',
  flood: 'So many came at once that no more went to your inbox.',
}
