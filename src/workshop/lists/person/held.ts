import type { LetterCopy, MailOnList } from '#core/api'
import type { Entry } from '#core/journal'
import type { Member } from '#core/list'
import { messagesFrom, useWorkspace } from '../../data'
import { now } from '../../clock'
import { type PersonFacts, useMembers } from '../../people'
import { useReceipts } from './receipts'

/** All that is held about one person, on every list, as one document that they can be given. */
export function useHeld() {
  const workspace = useWorkspace()
  const members = useMembers()
  const receipts = useReceipts()

  async function onList(member: Member, entries: readonly Entry[], batches: PersonFacts['batches']) {
    const list = workspace.list(member.list)
    const label = (key: string) => list?.columns.find((column) => column.key === key)?.label ?? key
    return {
      list: list?.name ?? 'a list that is gone',
      email: member.email.typed,
      status: member.status,
      since: member.joinedAt,
      values: Object.fromEntries(Object.entries(member.values).map(([key, value]) => [label(key), value])),
      tags: member.tags ?? [],
      receipts: list === null ? [] : receipts.of(entries, batches).map((receipt) => receipts.record(receipt, list)),
      history: entries,
    }
  }

  return {
    async of(
      { member, entries, batches, elsewhere }: PersonFacts,
      mails: readonly MailOnList[],
      letters: readonly LetterCopy[],
    ) {
      const lists = [await onList(member, entries, batches)]
      for (const other of elsewhere) {
        const person = await members.person(other.list, other.id, [])
        if (person !== null) lists.push(await onList(person.member, person.entries, person.batches))
      }
      return {
        about: member.email.typed,
        savedAt: now(),
        lists,
        messages: (await messagesFrom(member.email.compared)).map(({ at, form, personal }) => ({
          ...{ at, form: workspace.form(form)?.name ?? 'a form that is gone' },
          ...{ subject: personal?.subject, text: personal?.text, answers: personal?.answers, page: personal?.page },
        })),
        mails: mails.map(({ kind, state, queued, recipient, said }) => ({
          kind,
          state,
          queued: new Date(queued).toISOString(),
          recipient,
          said,
        })),
        letters: letters.map(({ title, state, at, hasLeft }) => ({
          ...{ title, state, at: new Date(at).toISOString() },
          ...(hasLeft && { leftByIt: true }),
        })),
      }
    },
  }
}
