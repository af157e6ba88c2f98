import { statusIn, tickIn } from '#core/list'
import type { ServiceFile } from './service-file'

/** Where somebody stands at a service: `unknown` for a word that neither its file nor common use explains. */
export type TheirStatus = 'on' | 'waiting' | 'off' | 'unknown'

/** What a service calls a status, by its file; else by what the word says in common use. Nothing told is `on`. */
export function statusOf(service: ServiceFile, word: string | null): TheirStatus {
  if (word === null) return 'on'
  const named = service.statuses
  if (named !== undefined && Object.hasOwn(named, word)) return named[word]!
  const meaning = statusIn(word)
  if (meaning === 'confirmed') return 'on'
  if (meaning === 'waiting') return 'waiting'
  if (meaning !== null) return 'off'
  const isTicked = tickIn(word)
  return isTicked === null ? 'unknown' : isTicked ? 'on' : 'off'
}
