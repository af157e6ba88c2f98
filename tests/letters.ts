import type { LetterId, SendingId } from '#core/ids'
import type { LetterContent, LetterTime } from '#core/letter'
import { richText } from '#core/text'
import * as samples from './tables/samples'

let made = 0
/** A letter with words, to the sample's list where not said otherwise. */
export function aLetter(changes: Partial<LetterContent> = {}): LetterContent {
  return {
    subject: richText('Clear skies on Friday'),
    ...{ preview: '', isPlain: false, lists: [samples.list.id], readers: { kind: 'everybody' } },
    ...{ isInArchive: false, countsLinks: false },
    blocks: [
      {
        ...{ id: 'b1', kind: 'words', as: 'text' },
        text: [
          {
            kind: 'paragraph',
            spans: [{ text: 'Hello ' }, { text: 'there', placeholder: 'first-name' }, { text: ', come and look.' }],
          },
        ],
      },
      { id: 'b2', kind: 'button', words: 'The programme', link: 'https://hill.example/programme' },
    ],
    ...changes,
  }
}

export function aSending(content = aLetter(), when: LetterTime = { kind: 'now' }) {
  made += 1
  return {
    ...{ id: `sending${made}` as SendingId, content, when },
    source: { kind: 'letter', id: 'sampleletter' as LetterId } as const,
  }
}
