import type { Entry } from '#core/journal'
import { affectedMembers, type List, type Member, type Roster } from '#core/list'
import { type ReceiptNames, receiptsOf, receiptText } from '#core/receipt'
import { frameWords, spotName } from '#core/spot'
import { database, entriesAt } from '../data'

/** What receipts refer to by ids, as it is in this browser's database. */
export async function receiptNames(roster: Roster): Promise<ReceiptNames> {
  const [forms, spots, sites, lists] = await Promise.all([
    database.forms.toArray(),
    database.spots.toArray(),
    database.sites.toArray(),
    database.lists.toArray(),
  ])
  return {
    form: (id) => forms.find((one) => one.id === id)?.name ?? 'a form that is gone',
    spot: (id) => {
      const spot = spots.find((one) => one.id === id)
      return spot === undefined ? 'a place that is gone' : spotName(spot, sites)
    },
    frameAt: (id, page) => frameWords(spots.find((one) => one.id === id) ?? null, sites, page),
    // The words themselves are too long for a cell: the version names them.
    version: () => null,
    list: (id) => lists.find((one: List) => one.id === id)?.name ?? 'a list that is gone',
    batch: (id) => roster.batch(id),
  }
}

/** How each of some people agreed last, in words. */
export async function receiptTexts(
  roster: Roster,
  members: readonly Member[],
  names: ReceiptNames,
): Promise<Map<string, string>> {
  const numbers = members.flatMap(({ list, id }) => roster.entriesAbout(list, id))
  const wanted = new Set<string>(members.map(({ id }) => id))
  const about = new Map<string, Entry[]>()
  for (const entry of await entriesAt(numbers))
    for (const id of affectedMembers(entry)) {
      if (!wanted.has(id)) continue
      const entries = about.get(id)
      if (entries === undefined) about.set(id, [entry])
      else entries.push(entry)
    }
  return new Map(
    [...about].flatMap(([id, entries]) => {
      const last = receiptsOf(entries, names).findLast(({ way }) => way !== 'put-back')
      return last === undefined ? [] : [[id, receiptText(last)] as const]
    }),
  )
}
