import { parse, type Selector } from 'css-what'

/** Pseudo-classes that say something of a page as it stands, and mean the same to every engine (Selectors Level 4). */
const PSEUDO_CLASSES = new Set([
  ...['not', 'is', 'where', 'has', 'root'],
  ...['first-child', 'last-child', 'only-child', 'nth-child', 'nth-last-child'],
  ...['first-of-type', 'last-of-type', 'only-of-type', 'nth-of-type', 'nth-last-of-type'],
])
const MOST_PARTS = 30
const STEPS: ReadonlySet<string> = new Set(['descendant', 'child', 'adjacent', 'sibling'])

/** Why a selector cannot be used, in words for its owner; null when it can. */
export function selectorProblem(text: string): string | null {
  if (text.trim() === '') return 'Name a part of the page, such as main > p.'
  let parsed: Selector[][]
  try {
    parsed = parse(text)
  } catch {
    return `“${text.slice(0, 60)}” is no CSS selector.`
  }
  return problemIn(parsed, { left: MOST_PARTS })
}

function problemIn(alternatives: readonly Selector[][], room: { left: number }): string | null {
  for (const parts of alternatives) {
    const [last] = parts.slice(-1)
    if (last === undefined || STEPS.has(last.type)) return 'A selector ends with the part that is meant.'
    for (const part of parts) {
      if (--room.left < 0) return `It has more than ${MOST_PARTS} parts.`
      const problem = problemOf(part, room)
      if (problem !== null) return problem
    }
  }
  return null
}

function problemOf(part: Selector, room: { left: number }): string | null {
  switch (part.type) {
    case 'pseudo':
      if (!PSEUDO_CLASSES.has(part.name)) return `“:${part.name}” cannot be used here.`
      return Array.isArray(part.data) ? problemIn(part.data, room) : null
    case 'pseudo-element':
      return `“::${part.name}” is no part of a page.`
    case 'attribute':
      // `!=` is no CSS.
      return part.action === 'not' ? '“!=” is no CSS; write :not([…]).' : null
    case 'column-combinator':
    case 'parent':
      return 'It has a step that browsers do not know.'
    default:
      return null
  }
}
