import type { Preferences } from '#core/sync'
import { type Workspace, changesOf } from '#core/workspace'
import { type Downloads, openDownloads, openSharedFiles, type SharedFiles } from '../gifts'
import { type HandOvers, openHandOvers } from '../hand-over'
import { type Letters, openLetters } from '../letters'
import type { MailBody } from '../mail/queued'
import { type Messages, openMessages } from '../messages'
import { type Objects, openObjects, takeChange } from '../objects'
import {
  type MemberCheck,
  openMemberCheck,
  type History,
  openHistory,
  journalId,
  JournalWriter,
  type Batches,
  openBatches,
  openPeople,
  type People,
  RefillProblem,
  Refilling,
} from '../people'
import { newId } from '../random'
import { SignUpHealth } from './health'
import { openSpace, type Space } from '../rehearsals'
import { openResults, type Results } from '../results'
import { KeptLinkKeys, type LinkKeys, type Sealing, sealingWith } from '../secrets'
import type { Engine } from '../subjects'
import { openValues, type Values } from '../values'
import { openQueue, type Queue } from '../work'
import { openWriting, type Writing } from '../writing'

/** All that is stored, by subject, in one place and one order each. Every promise of a writing method resolves only after its change is on disk. */
export interface Ledger
  extends People, History, Objects, Downloads, Pick<Writing, 'onNews' | 'onMail' | 'measureCommits'> {
  /** Where a rehearsal's made-up people live. */
  space(name: string): Space
  /** All that is done later. */
  queue: Queue
  /** Single values that all processes share. */
  values: Values
  /** How often forms were seen and begun. */
  results: Results
  /** Many people changed as one. */
  batches: Batches
  handOvers: HandOvers
  memberCheck: MemberCheck
  /** What visitors write to the owner. */
  messages: Messages
  /** Letters on their way to the people of lists. */
  letters: Letters
  /** What links in mails are marked with, as of now. */
  linkKeys(): Promise<LinkKeys>
  /** The same, as they are kept. */
  keptLinkKeys: KeptLinkKeys
  /** To be called at the start, once the secret is known to be right: opens what an earlier start could not. */
  beginLinkKeys(): Promise<void>
  /** Gifts in the store that receivers share; null where it is one's own. */
  sharedFiles: SharedFiles | null
  /** Connections to a database server, by state; null where there is none. */
  connections(): { total: number; idle: number; waiting: number } | null
  /** Whether other receivers may have the same store open. */
  isShared: boolean
  /** Gives an empty store all of a workspace at once; one that holds anything stays as it is. Resolves with whether it did. */
  seed(workspace: Workspace): Promise<boolean>
  /** Writes a whole and consistent copy of the store into a file that is not there yet, while sign-ups go on. */
  copyTo(file: string): Promise<void>
  /** Throws when sign-ups cannot be stored. */
  checkHealth(): Promise<void>
  close(): Promise<void>
}

const sealedForThisProcess = sealingWith(newId<string>)

/**
 * The ledger over any engine.
 *
 * @param now the clock, in milliseconds since 1970
 * @param sureNow what waiting ends by; see `Clock`
 * @param sealing how what is secret is kept; without it, until the process ends
 */
export async function openLedger(
  engine: Engine,
  now: () => number,
  sureNow = now,
  sealing: Sealing = sealedForThisProcess,
): Promise<Ledger> {
  const writing = await openWriting(engine, { now, sureNow }, sealing)
  const { published, run, tellMail } = writing
  const journal = new JournalWriter((list) => published.mail(list))
  const refilling = new Refilling(now)
  const objects = openObjects(writing)
  const letters = openLetters(writing)
  const values = openValues(engine, now)
  const people = openPeople(writing, journal)
  const health = new SignUpHealth(writing)
  const keptLinkKeys = new KeptLinkKeys(values, sealing, sureNow)
  return {
    // A store that was moved is shared from then on.
    get isShared() {
      return engine.isShared
    },
    sharedFiles: engine.isShared ? openSharedFiles(engine, now) : null,
    ...people,
    signUp: health.watched(people.signUp),
    ...(await openHistory(writing, refilling)),
    ...objects,
    ...openDownloads(writing),
    onNews: writing.onNews,
    onMail: writing.onMail,
    measureCommits: writing.measureCommits,
    connections: () => engine.connections(),
    space: (name) => openSpace({ engine, space: name, now, mailOf: (list) => published.mail(list), written: tellMail }),
    queue: openQueue(engine, run, now, async (transaction, job, outcome) => {
      await letters.tried(transaction, job, outcome)
      const { member, kind } = job.body as MailBody
      const isTheirs = outcome.state === 'refused' && outcome.isTarget && kind !== 'notice' && kind !== 'message'
      if (isTheirs && job.space === '' && member !== '') await journal.bounce(transaction, member, outcome.said, now())
    }),
    letters,
    messages: openMessages(writing),
    values,
    results: openResults(engine),
    batches: openBatches(writing, () => keptLinkKeys.now()),
    keptLinkKeys,
    beginLinkKeys: () => beginLinkKeys(writing, keptLinkKeys),
    linkKeys: () => keptLinkKeys.now(),
    memberCheck: openMemberCheck(writing),
    handOvers: openHandOvers(writing),
    seed: (workspace) => seed(writing, refilling, workspace),
    copyTo: (file) => engine.copyTo(file),
    checkHealth: () => health.check(),
    close: () => engine.close(),
  }
}

/** Also takes the key that links were marked with from among the objects, where it lay before it was sealed. */
async function beginLinkKeys({ engine, runWithObjects }: Writing, keys: KeptLinkKeys): Promise<void> {
  await keys.openSetAside()
  const stored = await engine.now.object('preferences', 'workshop')
  const { linkKey, ...body } = (stored?.body ?? {}) as Preferences & { linkKey?: string }
  if (stored === null || linkKey === undefined) return
  await keys.takePlain(linkKey)
  await runWithObjects((transaction, taken) =>
    takeChange(transaction, { kind: 'preferences', key: stored.key, base: stored.revision, body }, taken),
  )
}

function seed({ runWithObjects }: Writing, refilling: Refilling, workspace: Workspace): Promise<boolean> {
  return runWithObjects(async (transaction, taken) => {
    const [entry, change] = [await transaction.newestEntry(), await transaction.newestChange()]
    if (entry.n > 0 || change.n > 0) return false
    for (const picture of workspace.pictures) await transaction.keepPicture(picture)
    for (const change of changesOf(workspace)) {
      const outcome = await takeChange(transaction, change, taken)
      if (!outcome.ok)
        throw new Error(
          `${change.kind} ${change.key}: ${'problem' in outcome ? outcome.problem.message : 'is there twice'}`,
        )
    }
    const { id, entries } = workspace.journal
    if (id !== null) {
      const result = await refilling.refill(transaction, (await journalId(transaction))!, id, entries)
      if (!result.ok) throw new RefillProblem(result)
    }
    return true
  })
}
