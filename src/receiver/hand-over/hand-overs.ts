import type { HandOver } from '#core/connection'
import type { HandOverId, MemberId } from '#core/ids'
import type { Member } from '#core/list'
import type { Job } from '../work/tables'
import type { Writing } from '../writing'
import { beginHandOver, countsOf, finishJob, forgetHandOvers, handAgain, type HandOverCounts } from './handing'
import type { Handed, HandedState } from './tables'

/** Lists carried on by connections; see `handing.ts`. */
export interface HandOvers {
  /** Queues everybody of its list. */
  begin(handOver: HandOver): Promise<void>
  /** Queues members once more, whatever their records say. */
  again(handOver: HandOver, members: readonly MemberId[], as?: { isMend?: boolean }): Promise<void>
  /** Stores a job's result and removes the job, in one transaction. */
  finish(job: Job, handed: Handed | null): Promise<void>
  /** Stores a person's state at the service. */
  note(handed: Handed): Promise<void>
  handed(handOver: HandOverId, member: MemberId): Promise<Handed | null>
  handedOf(member: MemberId): Promise<Handed[]>
  inState(handOver: HandOverId, state: HandedState, limit: number, skipped?: number): Promise<Handed[]>
  /** Deletes the records of removed hand-overs. */
  forgetGone(): Promise<void>
  counts(handOver: HandOver): Promise<HandOverCounts>
  /** Everybody of a list, in order, some at once. */
  membersAfter(list: string, rank: number, limit: number): Promise<{ rank: number; member: Member }[]>
  withAddress(list: string, compared: string): Promise<Member | null>
}

export const openHandOvers = ({ engine, run, now }: Writing): HandOvers => ({
  begin: (handOver) => run((transaction) => beginHandOver(transaction, handOver, now())),
  again: (handOver, members, { isMend = false } = {}) =>
    run((transaction) => handAgain({ transaction, handOver, members, isMend, now: now() })),
  finish: (job, handed) => engine.run((transaction) => finishJob(transaction, job, handed)),
  note: (handed) => engine.run((transaction) => transaction.keepHanded(handed)),
  handed: (handOver, member) => engine.now.handed(handOver, member),
  handedOf: (member) => engine.now.handedOf(member),
  inState: (handOver, state, limit, skipped) => engine.now.handedInState(handOver, state, limit, skipped),
  forgetGone: () => engine.run(forgetHandOvers),
  counts: (handOver) => countsOf(engine.now, handOver),
  membersAfter: (list, rank, limit) => engine.now.membersAfterRank(list, rank, limit),
  withAddress: (list, compared) => engine.now.memberWithAddress(list, compared),
})
