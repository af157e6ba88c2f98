/*
 * The structure of a selector that an owner's own CSS may have, by the grammar of Selectors Level 4, section 18:
 * compounds joined by combinators. What is not of this structure cannot be told to stay within the form.
 */

/** Pseudo-classes and pseudo-elements without arguments. None of them looks outside the form. */
const PLAIN =
  'hover focus focus-visible focus-within active visited link any-link checked disabled enabled required optional valid invalid user-valid user-invalid in-range out-of-range read-only read-write placeholder-shown indeterminate default autofill empty first-child last-child only-child first-of-type last-of-type only-of-type before after placeholder marker selection first-line first-letter file-selector-button'
const PLAIN_PSEUDOS = new Set(PLAIN.split(' '))
/** Those that take a compound, and those that count. */
const TAKING_COMPOUND = new Set(['not', 'is', 'where', 'has'])
const COUNTING = new Set(['nth-child', 'nth-last-child', 'nth-of-type', 'nth-last-of-type'])

const SIMPLE = [
  /\*|[a-z][\w-]*/iy,
  /[.#][a-z_-][\w-]*/iy,
  /\[\s*[\w-]+\s*(?:[~*]?=\s*(?:"[^"]*"|'[^']*'|[\w-]+)\s*)?\]/y,
]
const PSEUDO = /::?([a-z-]+)/iy
const COMBINATOR = /[ \t\r\n\f]*[>+~][ \t\r\n\f]*|[ \t\r\n\f]+/y

export interface SelectorReading {
  /** Whether it begins with the form itself, `form` or `:scope`. */
  isOfForm: boolean
  /** Whether it means the form itself and nothing in it. */
  isForm: boolean
}

/**
 * Reads one selector; null when it is not of the structure that is taken. A sibling of the form would be outside it,
 * so from the form itself the only ways on are `>` and a space.
 */
export function readSelector(text: string): SelectorReading | null {
  const selector = text.trim()
  const scope = /^(?:form|:scope)(?![\w-])/.exec(selector)
  let at = compoundEnd(selector, scope?.[0].length ?? 0, scope !== null)
  if (at === null) return null
  for (let isFirst = true; at < selector.length; isFirst = false) {
    const combinator: string | null = match(COMBINATOR, selector, at)
    if (combinator === null || (isFirst && scope !== null && /[+~]/.test(combinator))) return null
    at = compoundEnd(selector, at + combinator.length)
    if (at === null) return null
  }
  return {
    isOfForm: scope !== null,
    isForm: scope !== null && compoundEnd(selector, scope[0].length, true) === selector.length,
  }
}

/** Where the compound that begins at `from` ends; null when none does. `mayBeEmpty` for what follows a name that is read already. */
function compoundEnd(text: string, from: number, mayBeEmpty = false, depth = 0): number | null {
  let at = from
  for (;;) {
    // A type selector stands first or not at all.
    const simple = SIMPLE.slice(at === from && !mayBeEmpty ? 0 : 1)
      .map((pattern) => match(pattern, text, at))
      .find((found) => found !== null)
    if (simple !== undefined) {
      at += simple.length
      continue
    }
    const pseudo = match(PSEUDO, text, at)
    if (pseudo === null) break
    const name = pseudo.replace(/^::?/, '').toLowerCase()
    const end = at + pseudo.length
    if (text[end] !== '(') {
      if (!PLAIN_PSEUDOS.has(name)) return null
      at = end
      continue
    }
    const close = argumentEnd(text, end + 1, name, depth)
    if (close === null || text[close] !== ')') return null
    at = close + 1
  }
  return at > from || mayBeEmpty ? at : null
}

function argumentEnd(text: string, from: number, name: string, depth: number): number | null {
  if (COUNTING.has(name)) return from + (match(/[\dn+\s-]+|odd|even/iy, text, from)?.length ?? 0)
  if (!TAKING_COMPOUND.has(name) || depth > 2) return null
  const start = from + (match(/\s+/y, text, from)?.length ?? 0)
  const end = compoundEnd(text, start, false, depth + 1)
  return end === null ? null : end + (match(/\s+/y, text, end)?.length ?? 0)
}

function match(pattern: RegExp, text: string, at: number): string | null {
  pattern.lastIndex = at
  return pattern.exec(text)?.[0] ?? null
}
