import 'fake-indexeddb/auto'
import Dexie from 'dexie'
import { effectScope, nextTick, watch } from 'vue'
import type { SiteId } from '#core/ids'
import type { Site } from '#core/site'
import { list as aList, site as aSite } from '../../../tests/tables/samples'
import { database, emptyDatabase, touches, useLiveTogether } from '.'

afterAll(() => database.close())

test('what one transaction changed in two tables is seen in both at once, however long one of them takes to read', async () => {
  await emptyDatabase()
  const scope = effectScope()
  const seen: (number | null)[][] = []
  const { sites, lists } = scope.run(() => {
    const live = useLiveTogether({
      sites: () => database.sites.count(),
      lists: () =>
        database.lists
          .toArray()
          .then(() => database.lists.toArray())
          .then(() => database.lists.count()),
    })
    watch([live.sites, live.lists], (counts) => seen.push(counts))
    return live
  })!
  const settled = async (wanted: (number | null)[]) => {
    while (sites.value !== wanted[0] || lists.value !== wanted[1]) await new Promise((resolve) => setImmediate(resolve))
    await nextTick()
  }
  await settled([0, 0])
  for (const number of [1, 2, 3]) {
    await database.transaction('rw', database.sites, database.lists, async () => {
      await database.sites.add({ ...aSite, id: `site${number}` as SiteId } as Site)
      await database.lists.add({ ...aList, id: `list${number}` as never })
    })
    await settled([number, number])
  }
  await database.sites.add({ ...aSite, id: 'site4' as SiteId })
  await settled([4, 3])
  scope.stop()
  await new Promise((resolve) => setTimeout(resolve, 50))
  expect(seen).toEqual([
    [0, 0],
    [1, 1],
    [2, 2],
    [3, 3],
    [4, 3],
  ])
})

test('writing nothing is no change: who looks at the queue whenever it changes may write to it', async () => {
  const told: boolean[] = []
  const listen = (parts: Parameters<typeof touches>[0]) => void told.push(touches(parts, ['sites']))
  Dexie.on('storagemutated', listen)
  await database.sites.bulkPut([])
  await database.transaction('rw', database.sites, () => database.sites.bulkPut([]))
  await database.sites.bulkPut([{ ...aSite, id: 'site5' as SiteId }])
  await database.lists.add({ ...aList, id: 'list5' as never })
  Dexie.on.storagemutated.unsubscribe(listen)
  expect(told.filter(Boolean)).toHaveLength(1)
  expect(told.length).toBeGreaterThan(1)
})
