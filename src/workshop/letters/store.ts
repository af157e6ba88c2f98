import { defineStore } from 'pinia'
import { computed } from 'vue'
import type { FeedId, LetterId, ListId, SeriesId } from '#core/ids'
import { type Feed, type Letter, type LetterContent, type LetterStart, type Series, startLetter } from '#core/letter'
import { newId, now } from '../clock'
import { database, useLiveTogether } from '../data'

/** What the owner writes to lists: letters in hand, series and feeds. Every action is kept when its promise resolves. */
export const useLetters = defineStore('letters', () => {
  const tables = useLiveTogether({
    letters: () => database.letters.toArray(),
    series: () => database.series.toArray(),
    feeds: () => database.feeds.toArray(),
  })
  const newestFirst = <T extends { createdAt: string }>(all: readonly T[] | null) =>
    [...(all ?? [])].sort((one, other) => other.createdAt.localeCompare(one.createdAt))
  const letters = computed(() => newestFirst(tables.letters.value).filter(({ isArchived }) => isArchived !== true))
  const series = computed(() => newestFirst(tables.series.value))
  const feeds = computed(() => newestFirst(tables.feeds.value))

  async function keep(draft: LetterContent): Promise<Letter> {
    const made: Letter = { id: newId<LetterId>(), createdAt: now(), draft }
    await database.letters.add(made)
    return made
  }
  const makeLetter = (start: LetterStart, lists: ListId[]) => keep(startLetter(start, lists, newId))
  /** A letter that begins with what another says. */
  const startFrom = (content: LetterContent) => keep(structuredClone(content))

  async function removeLetter(id: LetterId): Promise<() => Promise<unknown>> {
    const before = await database.letters.get(id)
    await database.letters.delete(id)
    return async () => before !== undefined && database.letters.put(before)
  }

  async function makeSeries(list: ListId, name: string, zone: string): Promise<Series> {
    const draft = { name, list, tag: '', includesThoseThere: false, zone, steps: [] }
    const made: Series = { id: newId<SeriesId>(), createdAt: now(), draft, published: null, isPaused: false }
    await database.series.add(made)
    return made
  }
  const removeSeries = (id: SeriesId) => database.series.delete(id)
  const pauseSeries = (id: SeriesId, isPaused: boolean) => database.series.update(id, { isPaused })

  async function makeFeed(list: ListId, name: string, zone: string): Promise<Feed> {
    const made: Feed = {
      ...{ id: newId<FeedId>(), createdAt: now(), published: null, isPaused: false },
      draft: {
        ...{ name, address: '', lists: [list], readers: { kind: 'everybody' }, rhythm: { kind: 'each' }, zone },
        subject: [{ kind: 'paragraph', spans: [{ text: '', placeholder: 'post-title' }] }],
        ...{ most: 5, logo: null, above: [], below: [], shows: 'summary', hasPicture: true },
        ...{ isInArchive: false, goesByItself: false },
      },
    }
    await database.feeds.add(made)
    return made
  }
  const removeFeed = (id: FeedId) => database.feeds.delete(id)
  const pauseFeed = (id: FeedId, isPaused: boolean) => database.feeds.update(id, { isPaused })

  return {
    isLoaded: computed(() => Object.values(tables).every((table) => table.value !== null)),
    ...{ letters, series, feeds, makeLetter, startFrom, removeLetter },
    ...{ makeSeries, removeSeries, pauseSeries, makeFeed, removeFeed, pauseFeed },
  }
})
