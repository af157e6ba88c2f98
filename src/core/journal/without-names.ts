import { addressesIn, withoutPeople } from '#core/privacy'
import { batchPurposeSchema } from './batch'
import { type Entry, cameFromSchema } from './entry'

const [cameFromTold, purposeTold] = [addressesIn(cameFromSchema), addressesIn(batchPurposeSchema)]

/**
 * An entry for whoever sees no people: when, where and how somebody joined, and how many there are, but not who it is,
 * what they answered or on which page. What led there is told, as results tell it. Addresses stay different from each other, so that people can be counted.
 */
export function withoutNames(entry: Entry): Entry {
  if (entry.kind === 'batch-begun')
    return { ...entry, purpose: withoutPeople(purposeTold, entry.purpose) as typeof entry.purpose }
  if (!('personal' in entry) || entry.personal === null) return entry
  switch (entry.kind) {
    case 'arrival':
      return {
        ...entry,
        personal: {
          email: entry.personal.email && nobody(entry.member ?? entry.id),
          values: {},
          ...(entry.personal.cameFrom && {
            cameFrom: withoutPeople(cameFromTold, entry.personal.cameFrom) as typeof entry.personal.cameFrom,
          }),
          page: '',
        },
      }
    case 'message':
      return {
        ...entry,
        personal: { email: entry.personal.email && nobody(entry.id), subject: '', text: '', answers: [], page: '' },
      }
    case 'member-added':
      return { ...entry, personal: { email: nobody(entry.member), values: {} } }
    case 'member-edited':
      return { ...entry, personal: { email: nobody(entry.member), values: {} } }
    case 'member-corrected':
      return { ...entry, personal: { email: nobody(entry.member), was: nobody(entry.id) } }
    case 'member-written':
      return { ...entry, personal: { email: nobody(entry.member), values: {}, tags: [] } }
    case 'member-noted':
      return { ...entry, personal: { text: '' } }
    case 'member-bounced':
      return { ...entry, personal: { reason: '' } }
    case 'members-changed': {
      const { kind } = entry.personal.change
      // Who is on a list is counted; what is noted of them is not told.
      return kind === 'tag' || kind === 'untag' || kind === 'set' ? { ...entry, personal: null } : entry
    }
  }
}

function nobody(id: string): { typed: string; compared: string } {
  return { typed: `somebody ${id.slice(-4)}`, compared: id }
}
