import { parseEmail } from '#core/email'
import type { ListId, MemberId } from '#core/ids'
import type { Command } from '#core/journal'
import type { Member, MemberStatus } from '#core/list'
import { keepableText, MAX_VALUE_LENGTH } from '#core/text'
import { queueCommand, takeBackRemoval } from '../data'
import { useNotices } from '../notices'
import { newMemberId, type ShownMember, useMembers } from '../people'

/** What an owner says of somebody. */
export interface MemberFacts {
  email: string
  values: Readonly<Record<string, string>>
  /** Missing where they stay as they are. */
  tags?: readonly string[]
  /** Of somebody new, how they agreed to get mail. */
  consent?: string
}

/** What an owner does to people of a list: put on its way, told, and where it can be, undone. */
export function useMemberChanges() {
  const members = useMembers()
  const notices = useNotices()

  /**
   * Changes what is kept of somebody; adds them where `member` is null.
   *
   * @returns what is wrong with it, in words for the owner; null where it is on its way
   */
  async function save(list: ListId, member: ShownMember | null, { email, values, tags, consent = '' }: MemberFacts) {
    const parsed = parseEmail(email)
    if (!parsed.ok) return parsed.problem.message
    const holder = await members.withAddress(list, parsed.email.compared)
    if (holder !== null && holder.id !== member?.id)
      return `${holder.email.typed} is in this list already (${holder.status}).`
    // What an older sign-up brought along may hold what cannot be kept any more.
    const storable = Object.fromEntries(
      Object.entries(values).flatMap(([key, value]) =>
        value.trim() === '' ? [] : [[key, keepableText(value, MAX_VALUE_LENGTH)]],
      ),
    )
    const facts = { list, email, values: storable }
    try {
      if (member === null)
        await queueCommand({
          kind: 'add-member',
          member: newMemberId(),
          ...facts,
          ...(consent.trim() !== '' && { consent: consent.trim() }),
        })
      else
        await queueCommand({
          kind: 'edit-member',
          member: member.id,
          revision: member.revision,
          ...facts,
          ...(tags !== undefined && { tags: [...tags] }),
        })
    } catch (error) {
      return error instanceof Error ? error.message : String(error)
    }
    return null
  }

  async function remove({ id, list, revision, status, email }: Member): Promise<void> {
    const removal = await queueCommand({ kind: 'remove-member', list, member: id, revision })
    notices.done(`${email.typed} is removed from the list.`, async () => {
      if (status !== 'removed') await undoRemoval(list, id, removal, status)
    })
  }

  async function undoRemoval(
    list: ListId,
    id: MemberId,
    removal: Command['id'],
    status: Exclude<MemberStatus, 'removed'>,
  ): Promise<void> {
    if (await takeBackRemoval(removal, status)) return
    const member = await members.ask('current', list, id)
    if (member?.status === 'removed')
      await queueCommand({ kind: 'restore-member', list, member: id, revision: member.revision, status })
  }

  /** Takes a removal back that is still on its way. */
  async function takeBack({ id, list, removal }: ShownMember): Promise<void> {
    if (removal !== undefined && removal.before !== 'removed')
      await undoRemoval(list, id, removal.command, removal.before)
  }

  async function putBack({ id, list, revision }: Member): Promise<void> {
    await queueCommand({ kind: 'restore-member', list, member: id, revision, status: 'confirmed' })
  }

  async function addNote({ id, list }: Member, text: string): Promise<void> {
    await queueCommand({ kind: 'note-member', list, member: id, text })
  }

  return { save, remove, takeBack, putBack, addNote }
}
