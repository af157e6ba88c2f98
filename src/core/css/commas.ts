/** The parts of a text between commas that stand outside of all brackets. */
export function atTopLevel(text: string): string[] {
  const parts: string[] = []
  let depth = 0
  let from = 0
  for (let at = 0; at < text.length; at++) {
    const character = text[at]
    if (character === '(' || character === '[') depth += 1
    else if (character === ')' || character === ']') depth -= 1
    else if (character === ',' && depth <= 0) {
      parts.push(text.slice(from, at))
      from = at + 1
    }
  }
  return [...parts, text.slice(from)]
}
