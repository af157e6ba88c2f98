import type { MemberId } from '#core/ids'
import type { Entry, NewEntry, SentMessage } from '#core/journal'
import { affectedMembers, applyToMember, type Member } from '#core/list'
import { markAfter } from './journal-marks'
import { alikeKey } from './message-intake'
import { newId } from '../random'
import type { Newest } from '../store'
import type { PeopleStore } from './tables'

/** The entry with a salt beside its personal part, where that has none yet. */
function salted(entry: NewEntry): NewEntry {
  if (!('personal' in entry) || entry.personal === null || entry.personal.salt !== undefined) return entry
  return { ...entry, personal: { salt: newId(), ...entry.personal } } as NewEntry
}

/**
 * Appends one entry and brings its members up to date.
 *
 * @param newest what the journal ends with, where it was read already
 * @param known members that were looked up already; null for none
 * @returns what it ends with now, the entry as it was appended, and its member afterwards where it is about one; undefined where it changes nobody
 */
export async function appendEntry(
  people: PeopleStore,
  appended: NewEntry,
  newest?: Newest,
  known?: ReadonlyMap<MemberId, Member | null>,
): Promise<{ newest: Newest; entry: NewEntry; member: Member | null | undefined }> {
  const before = newest ?? (await people.newestEntry())
  const n = before.n + 1
  const entry = salted(appended)
  const numbered = { n, ...entry } as Entry
  const mark = markAfter(before.mark, n, entry)
  await people.append(n, entry, mark)
  if (entry.kind === 'message' && entry.personal !== null) await keepMessage(people, n, entry, entry.personal)
  let member: Member | null | undefined
  for (const id of affectedMembers(numbered)) {
    const memberBefore = known?.has(id) === true ? known.get(id)! : await people.member(id)
    member = applyToMember(memberBefore, numbered)
    if (member !== null && memberBefore !== null && isUpdate(memberBefore, member)) await people.updateMember(member)
    else if (member !== null) await people.keepMember(member)
    else if (memberBefore !== null) await people.dropMember(id)
  }
  return { newest: { n, mark }, entry, member }
}

/** Has it known where a message is. */
function keepMessage(
  people: PeopleStore,
  n: number,
  { id, form, at, held }: NewEntry & { kind: 'message' },
  personal: NonNullable<SentMessage['personal']>,
): Promise<void> {
  const kept = { id, n, form, at: Date.parse(at), isHeld: held !== undefined }
  return people.keepMessage(kept, alikeKey(personal, personal.email?.compared ?? ''))
}

/** Whether somebody is found by what they were found by before. */
function isUpdate(before: Member, after: Member): boolean {
  return before.email.compared === after.email.compared && before.joinedAt === after.joinedAt
}
