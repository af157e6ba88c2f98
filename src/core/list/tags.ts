import { partsOf } from '#core/text'

/** Several tags in one cell, so that each can be told: commas between them, those with a sign that could part tags or quote them in quotes. */
export function tagsText(tags: readonly string[]): string {
  return tags.map((tag) => (/^\s|\s$|[",;|]/.test(tag) ? `"${tag.replaceAll('"', '""')}"` : tag)).join(', ')
}

/** The other way round: each tag once. */
export function tagsIn(cell: string): string[] {
  const tags = partsOf(cell, ',').map((part) => {
    const isQuoted = part.length > 1 && part.startsWith('"') && part.endsWith('"')
    return isQuoted ? part.slice(1, -1).replaceAll('""', '"') : part
  })
  return [...new Set(tags.filter((tag) => tag.trim() !== ''))]
}
