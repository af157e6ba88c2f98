import type { FeedContent } from '#core/letter'

export const weekdays = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const

/** How often posts become a letter. */
export function rhythmWords(rhythm: FeedContent['rhythm']): string {
  if (rhythm.kind === 'each') return 'each post'
  return rhythm.kind === 'daily' ? `daily at ${rhythm.time}` : `${weekdays[rhythm.weekday]}s at ${rhythm.time}`
}
