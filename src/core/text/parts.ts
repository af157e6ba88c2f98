/** Parts of a text between separators that stand outside of double quotes, white space around each cut off; empty ones are left out. */
export function partsOf(text: string, separators: string): string[] {
  const parts: string[] = []
  let isQuoted = false
  let from = 0
  for (let at = 0; at <= text.length; at += 1) {
    const isEnd = at === text.length || (!isQuoted && separators.includes(text[at]!))
    if (text[at] === '"') isQuoted = !isQuoted
    if (!isEnd) continue
    const part = text.slice(from, at).trim()
    if (part !== '') parts.push(part)
    from = at + 1
  }
  return parts
}
