import fc from 'fast-check'
import { EditorState, TextSelection } from 'prosemirror-state'
import { plainText, type RichText, type Span, tidied } from '#core/text'
import { anyRich } from '../../../tests/tables/any-form'
import { leaveEmptyItem, leaveItemAtStart, linkAt, setLink, takeLinkOff, toggleList } from './commands'
import { documentOf, plainTextOf, richTextOf } from './schema'

const bold = { text: 'bold', bold: true } as const
const paragraph = (...spans: Span[]): RichText[number] => ({ kind: 'paragraph', spans })
const words = (text: string) => paragraph({ text })
const list = (...items: string[]): RichText[number] => ({ kind: 'bullets', items: items.map((text) => [{ text }]) })

/** A state with the letters from one place of the document to another selected. */
function selected(text: RichText, from: number, to = from): EditorState {
  const doc = documentOf('rich', text)
  return EditorState.create({ doc, selection: TextSelection.create(doc, from, to) })
}
function after(state: EditorState, command: ReturnType<typeof toggleList>): EditorState | null {
  let next: EditorState | null = null
  return command(state, (tr) => (next = state.apply(tr))) ? next : null
}

test('property: any rich text, written and read again, is the same text', () => {
  fc.assert(fc.property(anyRich, (rich) => expect(richTextOf(documentOf('rich', rich))).toEqual(settled(rich))))
})

test('property: any plain text, written and read again, is the same text', () => {
  fc.assert(fc.property(fc.string({ unit: 'grapheme' }), (text) => plainTextOf(documentOf('plain', text)) === text))
})

test('property: a list made and unmade keeps every word, its format and what is selected', () => {
  fc.assert(
    fc.property(anyRich, fc.nat(), fc.nat(), fc.constantFrom('bullets', 'numbers'), (rich, one, other, kind) => {
      const doc = documentOf('rich', rich)
      const place = (at: number) => TextSelection.near(doc.resolve(at % (doc.content.size + 1)))
      const state = EditorState.create({
        doc,
        selection: TextSelection.between(place(one).$anchor, place(other).$head),
      })
      const chosen = ({ doc, selection: { from, to } }: EditorState) => doc.textBetween(from, to, ' ', '\n')
      const made = after(state, toggleList(kind))!
      made.doc.check()
      expect(chosen(made)).toBe(chosen(state))
      const letters = (text: RichText) => plainText(text).replace(/\n/g, '')
      expect(letters(richTextOf(made.doc))).toBe(letters(richTextOf(doc)))
      after(made, toggleList(kind))!.doc.check()
    }),
  )
})

test.each<[what: string, before: RichText, from: number, to: number, after: RichText]>([
  ['one paragraph', [words('one')], 2, 2, [list('one')]],
  ['two of three', [words('a'), words('b'), words('c')], 2, 5, [list('a', 'b'), words('c')]],
  ['a list again', [list('a', 'b')], 2, 2, [words('a'), words('b')]],
])('makes a list of %s', (_, before, from, to, wanted) => {
  expect(richTextOf(after(selected(before, from, to), toggleList('bullets'))!.doc)).toEqual(wanted)
})

test('Enter on an empty item, or Backspace at the start of one, ends the list there', () => {
  const doc = documentOf('rich', [list('a', '', 'c')])
  const empty = EditorState.create({ doc, selection: TextSelection.create(doc, 5) })
  const left = after(empty, leaveEmptyItem)!
  expect(left.doc.childCount).toBe(3)
  expect(left.selection.$from.parent.type.name).toBe('paragraph')
  expect(after(selected([list('a', 'b')], 2), leaveEmptyItem)).toBeNull()
  expect(richTextOf(after(selected([list('a', 'b')], 2), leaveItemAtStart)!.doc)).toEqual([words('a'), list('b')])
  expect(after(selected([list('a', 'b')], 3), leaveItemAtStart)).toBeNull()
})

test('a link is set on what is selected, changed from anywhere within, and taken off whole', () => {
  const link = 'https://stars.example/'
  const set = after(selected([paragraph({ text: 'see ' }, bold)], 1, 9), setLink(link))!
  expect(richTextOf(set.doc)).toEqual([paragraph({ text: 'see ', link }, { ...bold, link })])
  const within = set.apply(set.tr.setSelection(TextSelection.create(set.doc, 3)))
  expect(linkAt(within)).toBe(link)
  const changed = after(within, setLink('mailto:hill@stars.example'))!
  expect(richTextOf(changed.doc)).toEqual([
    paragraph({ text: 'see ', link: 'mailto:hill@stars.example' }, { ...bold, link: 'mailto:hill@stars.example' }),
  ])
  expect(richTextOf(after(changed, takeLinkOff)!.doc)).toEqual([paragraph({ text: 'see ' }, bold)])
  expect(richTextOf(after(selected([words('at ')], 4), setLink(link))!.doc)).toEqual([
    paragraph({ text: 'at ' }, { text: 'stars.example/', link }),
  ])
  expect(after(selected([words('none')], 2), takeLinkOff)).toBeNull()
})

/** As it is kept: neighbours of one format joined, no empty stretches, no line break that ends a block. */
function settled(rich: RichText): RichText {
  const spans = (all: readonly Span[]): Span[] => {
    const kept = tidied(all)
    const last = kept.at(-1)
    return last?.text.endsWith('\n') ? tidied([...kept.slice(0, -1), { ...last, text: last.text.slice(0, -1) }]) : kept
  }
  return rich
    .map((block) =>
      block.kind === 'paragraph'
        ? { ...block, spans: spans(block.spans) }
        : { ...block, items: block.items.map(spans).filter((item) => item.length > 0) },
    )
    .filter((block) => (block.kind === 'paragraph' ? block.spans : block.items).length > 0)
}
