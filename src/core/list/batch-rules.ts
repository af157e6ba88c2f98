import { sameValue } from '#core/json'
import type { BatchPurpose, Chunk, MemberChange, PassedOverReason, PersonRow } from '#core/journal'
import type { Member } from './member'

/*
 * What a batch may make of somebody, by what it is for. The receiver asks it of each person, whatever the workshop that
 * sent them looked at before: who left stays off, who has yet to confirm confirms, and who was erased comes by a sign-up.
 */

/** Whether somebody is on their list, or has yet to confirm that they want to be. */
const isOn = ({ status }: Pick<Member, 'status'>) => status === 'confirmed' || status === 'waiting'

/** Whether a chunk is of the kind that a batch for this purpose has. */
export function fitsPurpose(purpose: BatchPurpose, chunk: Chunk): boolean {
  switch (purpose.kind) {
    case 'import':
    case 'copy':
      return 'people' in chunk
    case 'change':
      return 'change' in chunk && purpose.change.kind !== 'withdraw' && sameValue(chunk.change, purpose.change)
    case 'undo':
      return 'people' in chunk || ('change' in chunk && ['tag', 'untag', 'withdraw'].includes(chunk.change.kind))
    case 'erase':
      return 'erase' in chunk
  }
}

/** What is known of the person that a row or a change is about. */
export interface BatchFacts {
  before: Member
  /** Of a batch that undoes another: whether the other's entry is the newest about them. */
  isUndone: boolean
}

/** Why a row does not change somebody who is on file; null where it may. */
export function refusalOfRow(
  purpose: BatchPurpose,
  { status, compared }: Pick<PersonRow, 'status'> & { compared: string },
  { before, isUndone }: BatchFacts,
): PassedOverReason | null {
  switch (purpose.kind) {
    case 'import':
      if (!isOn(before)) return 'off-the-list'
      if (compared !== before.email.compared) return 'changed-since'
      // A leaving in the file is taken over.
      return status === before.status || !isOn({ status }) ? null : 'yet-to-confirm'
    case 'copy':
      return 'there-already'
    case 'undo':
      if (!isUndone) return 'changed-since'
      // Whom that batch took off, it may have taken off as whatever they were; nobody else is put on by it.
      return status === before.status || !isOn({ status }) || !isOn(before) ? null : 'yet-to-confirm'
    case 'change':
    case 'erase':
      return 'invalid'
  }
}

/**
 * Why somebody new does not come in as a row says; null where they may.
 *
 * @param source of a copy: who has the address on the list that it is from
 */
export function refusalOfNew(
  purpose: BatchPurpose,
  { status }: Pick<PersonRow, 'status'>,
  source: Member | null,
): PassedOverReason | null {
  switch (purpose.kind) {
    case 'import':
      return null
    case 'copy':
      if (source === null) return 'gone'
      if (!isOn(source)) return 'off-the-list'
      return status === 'confirmed' && source.status !== 'confirmed' ? 'yet-to-confirm' : null
    case 'undo':
    case 'change':
    case 'erase':
      return 'invalid'
  }
}

/** Why a change that many get alike leaves somebody out; null where it does not. */
export function refusalOfChange(
  purpose: BatchPurpose,
  change: MemberChange,
  { before, isUndone }: BatchFacts,
): PassedOverReason | null {
  // By their own will: each of them is put back by hand, or comes back.
  if (change.kind === 'restore') return before.status === 'left' ? 'off-the-list' : null
  if (change.kind !== 'withdraw') return null
  const isOfIt = purpose.kind === 'undo' && before.batch === purpose.of
  return isOfIt && isUndone ? null : 'changed-since'
}
