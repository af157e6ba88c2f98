import { parseEmail } from '#core/email'
import type { Command, NewEntry } from '#core/journal'
import type { Member } from './member'

export interface Refusal {
  code:
    | 'unknown-member'
    | 'member-changed'
    | 'address-taken'
    | 'address-invalid'
    | 'unknown-list'
    | 'invalid'
    | 'other-receiver'
  message: string
}

export type Decision = { ok: true; entry: NewEntry } | { ok: false; problem: Refusal }

/** What the decision needs to know of the list at that moment. */
export interface CommandContext {
  /** Whether the command's list exists. */
  isList: boolean
  member: Member | null
  /** Who has this compared address on the command's list, in whatever status. */
  withAddress(compared: string): Member | null
}

/** Whether an owner's command can be carried out now, and the journal entry that does it. */
export function decide(command: Command, people: CommandContext, at: string): Decision {
  if (!people.isList) return refuse('unknown-list', 'This list does not exist any more.')
  const shared = { at, command: command.id, list: command.list, member: command.member }
  if (command.kind === 'add-member') {
    const parsed = parseEmail(command.email)
    if (!parsed.ok) return refuse('address-invalid', parsed.problem.message)
    if (people.member !== null || people.withAddress(parsed.email.compared) !== null) {
      return refuse('address-taken', `${parsed.email.typed} is already in this list.`)
    }
    const { values, consent } = command
    return {
      ok: true,
      entry: {
        ...shared,
        kind: 'member-added',
        personal: { email: parsed.email, values, ...(consent !== undefined && { consent }) },
      },
    }
  }

  const { member } = people
  if (member === null || member.list !== command.list)
    return refuse('unknown-member', 'This member is not in the list any more.')
  // A note contradicts nothing that changed meanwhile.
  if (command.kind === 'note-member')
    return { ok: true, entry: { ...shared, kind: 'member-noted', personal: { text: command.text } } }
  if (member.revision !== command.revision) {
    return refuse('member-changed', `${member.email.typed} was changed meanwhile. Look at it again before changing it.`)
  }
  switch (command.kind) {
    case 'edit-member': {
      const parsed = parseEmail(command.email)
      if (!parsed.ok) return refuse('address-invalid', parsed.problem.message)
      const holder = people.withAddress(parsed.email.compared)
      if (holder !== null && holder.id !== member.id)
        return refuse('address-taken', `${parsed.email.typed} is already in this list.`)
      const { values, tags } = command
      return {
        ok: true,
        entry: {
          ...shared,
          kind: 'member-edited',
          personal: { email: parsed.email, values, ...(tags !== undefined && { tags: [...new Set(tags)] }) },
        },
      }
    }
    case 'remove-member':
      return { ok: true, entry: { ...shared, kind: 'member-removed' } }
    case 'restore-member':
      return {
        ok: true,
        entry: {
          ...shared,
          kind: 'member-restored',
          status: command.status,
          // Or they would be removed again at once, and their link would not work.
          ...(command.status === 'waiting' && { waitsAnew: true }),
        },
      }
  }
}

function refuse(code: Refusal['code'], message: string): Decision {
  return { ok: false, problem: { code, message } }
}
