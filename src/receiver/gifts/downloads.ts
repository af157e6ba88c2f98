import type { MemberId } from '#core/ids'
import type { Writing } from '../writing'

/** How often people fetched their gifts. */
export interface Downloads {
  downloadsOf(id: MemberId): Promise<number>
  /** When somebody's gift was fetched last, in milliseconds since 1970; 0 for never. */
  lastDownload(id: MemberId): Promise<number>
  /** Counts one fetching of it; false, and not counted, where it was fetched so often already. */
  takeDownload(id: MemberId, most: number | null): Promise<boolean>
}

export const openDownloads = ({ engine, now }: Writing): Downloads => ({
  downloadsOf: async (id) => (await engine.now.downloadsOf(id)).times,
  lastDownload: async (id) => (await engine.now.downloadsOf(id)).last,
  takeDownload: (id, most) =>
    engine.run(async (transaction) => {
      if (most !== null && (await transaction.downloadsOf(id)).times >= most) return false
      await transaction.countDownload(id, now())
      return true
    }),
})
