import type { ListId } from '#core/ids'
import type { RichText } from '#core/text'
import type { BlockInColumn, LetterBlock, LetterBlockKind, LetterContent } from './letter'

const placeholder = (name: 'first-name' | 'list', text = '') => ({ text, placeholder: name }) as const
const greeting: RichText = [
  { kind: 'paragraph', spans: [{ text: 'Hello ' }, placeholder('first-name', 'there'), { text: ',' }] },
]

/** What a new letter begins with, to be written over. */
export const letterStarts = [
  { key: 'news', name: 'News', purpose: 'A heading, some words and a button.' },
  { key: 'note', name: 'A note', purpose: 'Plain text, like a mail to a friend.' },
  { key: 'empty', name: 'Empty', purpose: 'Begin with nothing.' },
] as const
export type LetterStart = (typeof letterStarts)[number]['key']

export function startLetter(start: LetterStart, lists: ListId[], newId: () => string): LetterContent {
  const words = (as: 'text' | 'title', text: RichText): LetterBlock => ({ id: newId(), kind: 'words', as, text })
  const blocks: Record<LetterStart, () => LetterBlock[]> = {
    news: () => [
      words('title', []),
      words('text', greeting),
      { id: newId(), kind: 'button', words: 'Read on', link: '' },
    ],
    note: () => [words('text', greeting)],
    empty: () => [],
  }
  return {
    ...{ subject: [], preview: '', isPlain: start === 'note', blocks: blocks[start](), lists },
    ...{ readers: { kind: 'everybody' }, isInArchive: false, countsLinks: false },
  }
}

/** A block that was just put in. */
export function newBlock(kind: LetterBlockKind, newId: () => string): LetterBlock {
  const id = newId()
  switch (kind) {
    case 'words':
      return { id, kind, as: 'text', text: [] }
    case 'picture':
      return { id, kind, picture: null, address: '', alt: '', link: '', width: 'full' }
    case 'button':
      return { id, kind, words: 'Read on', link: '' }
    case 'rule':
      return { id, kind }
    case 'space':
      return { id, kind, height: 24 }
    case 'offer':
      return { id, kind, spot: null, heading: '', text: [], button: 'Sign up' }
    case 'columns': {
      const side = (): BlockInColumn[] => [{ id: newId(), kind: 'words', as: 'text', text: [] }]
      return { id, kind, left: side(), right: side() }
    }
  }
}

/** What a block is called: words by what they are written as. */
export function blockName(block: LetterBlock): string {
  return block.kind === 'words' ? wordsNames[block.as] : blockNames[block.kind]
}

export const wordsNames = { text: 'Text', title: 'Title', heading: 'Heading', quote: 'Quotation' } as const

/** What each kind of block is called. */
export const blockNames: Record<LetterBlockKind, string> = {
  words: 'Words',
  picture: 'Picture',
  button: 'Button',
  columns: 'Two columns',
  offer: 'A form’s offer',
  rule: 'Line across',
  space: 'Space',
}
