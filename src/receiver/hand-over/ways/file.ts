import type { Connection } from '#core/connection'
import { rehearseTable } from '../files'
import type { HandOverWay, WayOf, WayParts } from './way'

/** A table on this computer, written on its schedule: see `files.ts`. */
export function fileWay(_: Connection, __: WayOf<'file'>, { ledger, folder }: WayParts): HandOverWay {
  return {
    pace: undefined,
    address: '',
    wishes: () => true,
    together: () => 1,
    hand: async () => ({ means: 'done', said: 'Written with the next file.', retryAt: null }),
    tryOut: async () => [],
    rehearse: (member, handOver) => rehearseTable(member, handOver, ledger, folder),
  }
}
