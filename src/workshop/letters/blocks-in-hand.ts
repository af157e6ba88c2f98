import type { LetterBlock, LetterBody, LetterBlockKind } from '#core/letter'
import { blockNames, newBlock } from '#core/letter'
import { newId } from '../clock'

export type ChangeBody = (name: string, part: string, recipe: (body: LetterBody) => void) => void

/** Changes to a letter's blocks, each one step that can be undone. */
export function useBlocks(body: () => LetterBody, change: ChangeBody) {
  const at = (id: string) => body().blocks.findIndex((block) => holds(block, id))

  /** Below the one in hand, or at the end. Resolves with its id. */
  function add(kind: LetterBlockKind, below: string | null): string {
    const made = newBlock(kind, () => newId<string>())
    const place = below === null ? -1 : at(below)
    change(`Put in: ${blockNames[kind].toLowerCase()}`, `add ${made.id}`, (changed) =>
      changed.blocks.splice(place < 0 ? changed.blocks.length : place + 1, 0, made),
    )
    return made.id
  }

  function move(from: number, to: number): void {
    const block = body().blocks[from]
    if (block === undefined || to < 0 || to >= body().blocks.length || from === to) return
    change(`Move: ${blockNames[block.kind].toLowerCase()}`, `move ${block.id}`, (changed) => {
      const [moved] = changed.blocks.splice(from, 1)
      changed.blocks.splice(to, 0, moved!)
    })
  }

  function moveBy(id: string, by: -1 | 1): void {
    const place = at(id)
    if (place >= 0) move(place, place + by)
  }

  function remove(id: string): void {
    const block = body().blocks.find((one) => one.id === id)
    if (block === undefined) return
    change(`Take out: ${blockNames[block.kind].toLowerCase()}`, `remove ${id}`, (changed) => {
      changed.blocks = changed.blocks.filter((one) => one.id !== id)
    })
  }

  function copy(id: string): string | null {
    const place = body().blocks.findIndex((one) => one.id === id)
    const block = body().blocks[place]
    if (block === undefined) return null
    const made = withNewIds(structuredClone(block))
    change(`Double: ${blockNames[block.kind].toLowerCase()}`, `copy ${made.id}`, (changed) =>
      changed.blocks.splice(place + 1, 0, made),
    )
    return made.id
  }

  return { add, move, moveBy, remove, copy }
}

export function holds(block: LetterBlock, id: string): boolean {
  return (
    block.id === id || (block.kind === 'columns' && [...block.left, ...block.right].some((inner) => inner.id === id))
  )
}

function withNewIds(block: LetterBlock): LetterBlock {
  const made = { ...block, id: newId<string>() }
  if (made.kind !== 'columns') return made
  const anew = <T extends { id: string }>(all: readonly T[]) => all.map((one) => ({ ...one, id: newId<string>() }))
  return { ...made, left: anew(made.left), right: anew(made.right) }
}
