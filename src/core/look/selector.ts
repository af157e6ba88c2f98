import { parse, type Selector } from 'css-what'

/** Pseudo-classes and pseudo-elements without arguments. None of them looks outside the form. */
const PLAIN =
  'hover focus focus-visible focus-within active visited link any-link checked disabled enabled required optional valid invalid user-valid user-invalid in-range out-of-range read-only read-write placeholder-shown indeterminate default autofill empty first-child last-child only-child first-of-type last-of-type only-of-type before after placeholder marker selection first-line first-letter file-selector-button'
const PLAIN_PSEUDOS = new Set(PLAIN.split(' '))
/** Those that take a compound, and those that count. */
const TAKING_COMPOUND = new Set(['not', 'is', 'where', 'has'])
const COUNTING = new Set(['nth-child', 'nth-last-child', 'nth-of-type', 'nth-last-of-type'])
const COMBINATORS = new Set(['descendant', 'child', 'adjacent', 'sibling'])
/** `[a]`, `[a=b]`, `[a~=b]` and `[a*=b]`; classes and ids are read as the second and third. */
const MATCHES = new Set(['exists', 'equals', 'element', 'any'])
const NAME = /^[a-z_-][\w-]*$/i
const MOST_NESTED = 3

export interface SelectorReading {
  /** Whether it begins with the form itself, `form` or `:scope`. */
  isOfForm: boolean
  /** Whether it means the form itself and nothing in it. */
  isForm: boolean
}

/**
 * Reads one selector of an owner's own CSS (Selectors Level 4, section 18); null when it is not of the structure that is
 * taken: compounds of simple selectors that look no further than the form, joined by combinators. A sibling of the form
 * would be outside it, so from the form itself the only ways on are `>` and a space.
 */
export function readSelector(text: string): SelectorReading | null {
  const tokens = tokensOf(text)
  if (tokens === null) return null
  const [first] = tokens
  const isOfForm =
    (first?.type === 'tag' && first.name === 'form') || (first?.type === 'pseudo' && first.name === 'scope')
  const rest = isOfForm ? tokens.slice(1) : tokens
  if (!rest.every((token) => COMBINATORS.has(token.type) || isSimple(token, 0))) return null
  const ways = rest.filter(({ type }) => COMBINATORS.has(type))
  const isRelative = !isOfForm && first !== undefined && COMBINATORS.has(first.type)
  const leaves = isOfForm && (ways[0]?.type === 'adjacent' || ways[0]?.type === 'sibling')
  return isRelative || leaves ? null : { isOfForm, isForm: isOfForm && ways.length === 0 }
}

function tokensOf(text: string): Selector[] | null {
  // Escapes and comments could hide what is read.
  if (/[\\/|]/.test(text)) return null
  try {
    const [tokens, ...others] = parse(text)
    return tokens === undefined || tokens.length === 0 || others.length > 0 ? null : tokens
  } catch {
    return null
  }
}

function isSimple(token: Selector, depth: number): boolean {
  switch (token.type) {
    case 'universal':
      return token.namespace === null
    // The reader takes other characters for parts of names as well.
    case 'tag':
      return token.namespace === null && NAME.test(token.name)
    case 'attribute':
      return (
        token.namespace === null &&
        NAME.test(token.name) &&
        MATCHES.has(token.action) &&
        typeof token.ignoreCase !== 'boolean'
      )
    case 'pseudo-element':
      return token.data === null && PLAIN_PSEUDOS.has(token.name)
    case 'pseudo':
      if (token.data === null) return PLAIN_PSEUDOS.has(token.name)
      if (typeof token.data === 'string')
        return COUNTING.has(token.name) && /^(?:[\dn+\s-]*|odd|even)$/i.test(token.data)
      return (
        TAKING_COMPOUND.has(token.name) &&
        depth < MOST_NESTED &&
        token.data.length === 1 &&
        token.data[0]!.every((inner) => isSimple(inner, depth + 1))
      )
    default:
      return false
  }
}
