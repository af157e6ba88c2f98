import { type Fragment, type Node, type ResolvedPos } from 'prosemirror-model'
import { type Command, type EditorState, TextSelection, type Transaction } from 'prosemirror-state'
import { schema } from './schema'

const { nodes, marks } = schema

type ListKind = 'bullets' | 'numbers'

/** Puts a placeholder in the place of what is selected, where this text may have any. */
export function putPlaceholder(name: string, fallback: string): Command {
  return (state, dispatch) => {
    if (state.doc.type === nodes.plain) return false
    dispatch?.(state.tr.replaceSelectionWith(nodes.placeholder!.create({ name, fallback }), true).scrollIntoView())
    return true
  }
}

/** Makes the blocks in hand a list of one kind, or paragraphs again where they are one already. */
export function toggleList(kind: ListKind): Command {
  return (state, dispatch) => {
    const { $from, $to } = state.selection
    if (state.doc.type !== nodes.rich) return false
    const isOn = isInList(state, kind)
    const [first, last] = [$from.index(0), $to.index(0)]
    const lines: Fragment[] = []
    for (let at = first; at <= last; at++) {
      const block = state.doc.child(at)
      if (block.type === nodes.paragraph) lines.push(block.content)
      else block.forEach((item) => lines.push(item.content))
    }
    const made = isOn
      ? lines.map((line) => nodes.paragraph!.create(null, line))
      : [
          nodes[kind]!.create(
            null,
            lines.map((line) => nodes.item!.create(null, line)),
          ),
        ]
    const start = $from.posAtIndex(first, 0)
    const tr = state.tr.replaceWith(start, $to.posAtIndex(last + 1, 0), made)
    const [anchor, head] = [$from, $to].map((place) =>
      positionIn(tr.doc, start, lineOf(state.doc, first, place), place.parentOffset),
    )
    dispatch?.(tr.setSelection(TextSelection.create(tr.doc, anchor!, head!)).scrollIntoView())
    return true
  }
}

export function isInList(state: EditorState, kind: ListKind): boolean {
  return state.selection.$from.node(1)?.type === nodes[kind]
}

/** Which line below a first block a place stands in: paragraphs and items are lines. */
function lineOf(doc: Node, first: number, place: ResolvedPos): number {
  let line = 0
  for (let at = first; at < place.index(0); at++) line += linesIn(doc.child(at))
  return place.depth === 2 ? line + place.index(1) : line
}

const linesIn = (block: Node) => (block.type === nodes.paragraph ? 1 : block.childCount)

/** The place in a line, counted from a block's start. */
function positionIn(doc: Node, start: number, line: number, offset: number): number {
  let found = start
  let left = line
  doc.nodesBetween(start, doc.content.size, (node, position) => {
    if (left < 0 || !node.isTextblock) return left >= 0
    if (left === 0) found = position + 1 + offset
    left -= 1
    return false
  })
  return found
}

/** Makes the item in hand a paragraph of its own; what stands before and after it stays a list. */
const leaveList: Command = (state, dispatch) => {
  const { $from } = state.selection
  if ($from.parent.type !== nodes.item) return false
  const list = $from.node(1)
  const at = $from.index(1)
  const part = (from: number, to: number): Node[] => {
    const items: Node[] = []
    for (let one = from; one < to; one++) items.push(list.child(one))
    return items.length === 0 ? [] : [list.type.create(list.attrs, items)]
  }
  const before = part(0, at)
  const paragraph = nodes.paragraph!.create(null, $from.parent.content)
  const start = $from.before(1)
  const tr = state.tr.replaceWith(start, $from.after(1), [...before, paragraph, ...part(at + 1, list.childCount)])
  const inside = start + before.reduce((sum, { nodeSize }) => sum + nodeSize, 0) + 1
  dispatch?.(tr.setSelection(TextSelection.create(tr.doc, inside)).scrollIntoView())
  return true
}

/** Enter on an empty item ends the list. */
export const leaveEmptyItem: Command = (state, dispatch) =>
  state.selection.empty && state.selection.$from.parent.childCount === 0 && leaveList(state, dispatch)

/** Backspace at the start of an item makes it a paragraph. */
export const leaveItemAtStart: Command = (state, dispatch) =>
  state.selection.empty && state.selection.$from.parentOffset === 0 && leaveList(state, dispatch)

export const insertBreak: Command = (state, dispatch) => {
  dispatch?.(state.tr.replaceSelectionWith(nodes.break!.create()).scrollIntoView())
  return true
}

/** The address that what is selected links to, or null. */
export function linkAt({ selection, doc }: EditorState): string | null {
  const { from, to, empty, $from } = selection
  if (empty) return addressOf([...$from.marks(), ...($from.nodeAfter?.marks ?? [])])
  let found: string | null = null
  doc.nodesBetween(from, to, (node) => {
    found ??= addressOf(node.marks)
  })
  return found
}

function addressOf(all: readonly { type: unknown; attrs: Record<string, unknown> }[]): string | null {
  const link = all.find(({ type }) => type === marks.link)
  return link === undefined ? null : String(link.attrs.href)
}

/** Links what is selected. A cursor in a link changes all of that link; elsewhere the address itself is written. */
export function setLink(href: string): Command {
  return (state, dispatch) => {
    const { from, to, empty } = state.selection
    const link = marks.link!.create({ href })
    let tr: Transaction
    if (!empty) tr = state.tr.addMark(from, to, link)
    else {
      const around = linkAround(state)
      tr =
        around === null
          ? state.tr.insert(from, schema.text(href.replace(/^(https?:\/\/|mailto:|tel:)/i, ''), [link]))
          : state.tr.addMark(around.from, around.to, link)
    }
    dispatch?.(tr.scrollIntoView())
    return true
  }
}

export const takeLinkOff: Command = (state, dispatch) => {
  const { from, to, empty } = state.selection
  const range = empty ? linkAround(state) : { from, to }
  if (range === null) return false
  dispatch?.(state.tr.removeMark(range.from, range.to, marks.link!))
  return true
}

/** The whole stretch of one link around the cursor. */
function linkAround(state: EditorState): { from: number; to: number } | null {
  const { $from } = state.selection
  const href = linkAt(state)
  if (href === null) return null
  const start = $from.start()
  let range: { from: number; to: number } | null = null
  $from.parent.forEach((node, offset) => {
    if (addressOf(node.marks) !== href) return
    const [from, to] = [start + offset, start + offset + node.nodeSize]
    if (range !== null && range.to === from) range = { from: range.from, to }
    else if (from <= $from.pos && $from.pos <= to) range = { from, to }
  })
  return range
}
