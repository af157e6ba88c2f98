/** So deep nothing is nested that somebody wrote to be read; recursion over it ends long before the stack does. */
const MOST_DEPTH = 64

/**
 * Parses JSON from outside. What is nested deeper than `depth` is refused before it is parsed: it costs many times its
 * size, and whatever walks through it afterwards would run out of stack.
 *
 * @returns undefined for what is no JSON (RFC 8259) or nested too deeply
 */
export function parsedJson(text: string, depth = MOST_DEPTH): unknown {
  if (depthOf(text, depth) > depth) return undefined
  try {
    return JSON.parse(text) as unknown
  } catch {
    return undefined
  }
}

const [QUOTE, BACKSLASH, OPEN_BRACKET, CLOSE_BRACKET, OPEN_BRACE, CLOSE_BRACE] = [...'"\\[]{}'].map((sign) =>
  sign.charCodeAt(0),
)

/** How deep arrays and objects stand within each other, without parsing; no more than one above `most` is told. */
function depthOf(text: string, most: number): number {
  let depth = 0
  let deepest = 0
  let isInString = false
  for (let at = 0; at < text.length && deepest <= most; at += 1) {
    const sign = text.charCodeAt(at)
    if (isInString) {
      if (sign === BACKSLASH) at += 1
      else if (sign === QUOTE) isInString = false
    } else if (sign === QUOTE) isInString = true
    else if (sign === OPEN_BRACKET || sign === OPEN_BRACE) deepest = Math.max(deepest, (depth += 1))
    else if (sign === CLOSE_BRACKET || sign === CLOSE_BRACE) depth -= 1
  }
  return deepest
}
