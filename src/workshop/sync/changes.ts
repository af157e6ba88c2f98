import type { ChangeOutcome } from '#core/api'
import type { JournalId, PictureId } from '#core/ids'
import { giftFilesOf, type Mail } from '#core/mail'
import type { Picture, PictureFacts } from '#core/picture'
import { isImmutable } from '#core/sync'
import {
  changesFor,
  database,
  dropGiftFilesBut,
  giftFile,
  hasGiftFile,
  keepGiftFile,
  objectTables,
  readSetting,
  requireJournal,
  type Synced,
  syncedId,
  takeObject,
  takeObjects,
  type WaitingChange,
  writeSetting,
} from '../data'
import { type Client, ReceiverProblem } from '../client'

/** Takes in everything that other browsers made or changed since the last time. */
export async function pullObjects(client: Client): Promise<void> {
  for (;;) {
    const { cursor, mark } = (await readSetting('objects')) ?? { cursor: 0, mark: '' }
    const page = await client.objectsAfter(cursor, mark)
    const pictures = await missingPictures(
      client,
      page.objects.flatMap(({ kind, body }) =>
        kind === 'picture' && body !== null ? [(body as PictureFacts).id] : [],
      ),
    )
    await takeObjects(page.journal, page.objects, { cursor: page.cursor, mark: page.mark }, pictures)
    if (page.cursor < page.latest) continue
    return pullGiftFiles(client, page.journal)
  }
}

/** Asked for once while this page is open, and not there. */
const notThere = new Set<string>()

/** The files of gifts that are not here, so that a backup holds them. */
async function pullGiftFiles(client: Client, journal: JournalId): Promise<void> {
  const { mails, giftPieces, settings } = database
  const named = await database.transaction('rw', mails, giftPieces, settings, async () => {
    await requireJournal(journal)
    const named = new Set((await mails.toArray()).flatMap(giftFilesOf))
    await dropGiftFilesBut(named)
    return named
  })
  for (const file of named) {
    if (notThere.has(file) || (await hasGiftFile(file))) continue
    try {
      await keepGiftFile(file, await client.file(file))
    } catch (error) {
      if (!(error instanceof ReceiverProblem && error.status === 404)) throw error
      notThere.add(file)
    }
  }
}

/** The files of a list's gifts that the receiver does not have: it may be a new one. */
async function sendGiftFiles(client: Client, mail: Mail): Promise<void> {
  for (const file of new Set(giftFilesOf(mail))) {
    if (await client.hasFile(file)) continue
    const blob = await giftFile(file)
    if (blob !== null) await client.keepFile(file, blob)
  }
}

/** The bytes of those that are not here. One at a time: they are large, and each may come from a slow line. */
async function missingPictures(client: Client, ids: readonly PictureId[]): Promise<Map<string, Picture>> {
  const pictures = new Map<string, Picture>()
  for (const id of ids) {
    if ((await database.pictures.get(id)) !== undefined) continue
    try {
      pictures.set(id, await client.picture(id))
    } catch (error) {
      // Without its bytes the form still opens, and the checkup says what is missing.
      if (!(error instanceof ReceiverProblem && error.status === 404)) throw error
    }
  }
  return pictures
}

/** Far below the receiver's limit for one request; a form with its draft is some 10 KB. */
const SENT_AT_ONCE_BYTES = 500_000
const SENT_AT_ONCE = 100

/**
 * Sends what was changed here, and no more than that: each object once, pictures by themselves. Each is answered by
 * itself; what is refused or contradicts stops none of the others.
 *
 * @param journal the history that the receiver keeps
 * @param onProgress told the share that is sent, 0 to 1
 * @throws OtherJournal
 */
export async function sendChanges(
  client: Client,
  journal: JournalId,
  onProgress: (share: number) => void = () => {},
  signal?: AbortSignal,
): Promise<void> {
  const waiting = await changesFor(journal)
  let sent = 0
  for (const batch of batchesOf(waiting)) {
    if (signal?.aborted) return
    for (const { kind, key, body } of batch) {
      if (kind === 'mail' && body !== null) await sendGiftFiles(client, body as Mail)
      const picture = kind === 'picture' ? await database.pictures.get(key as PictureId) : undefined
      if (picture !== undefined) await client.sendPicture(picture)
    }
    const { outcomes } = await client.sendChanges(batch)
    await takeOutcomes(journal, batch, outcomes)
    sent += batch.length
    onProgress(sent / waiting.length)
  }
}

function* batchesOf(changes: readonly WaitingChange[]): Generator<WaitingChange[]> {
  let batch: WaitingChange[] = []
  let bytes = 0
  for (const change of changes) {
    const size = JSON.stringify(change).length
    if (batch.length > 0 && (batch.length >= SENT_AT_ONCE || bytes + size > SENT_AT_ONCE_BYTES)) {
      yield batch
      ;[batch, bytes] = [[], 0]
    }
    batch.push(change)
    bytes += size
  }
  if (batch.length > 0) yield batch
}

async function takeOutcomes(
  journal: JournalId,
  sent: readonly WaitingChange[],
  outcomes: readonly ChangeOutcome[],
): Promise<void> {
  await database.transaction('rw', objectTables(), async () => {
    await requireJournal(journal)
    for (const [at, outcome] of outcomes.entries()) {
      const { kind, key, body } = sent[at]!
      const id = syncedId(kind, key)
      const synced = await database.synced.get(id)
      if (outcome.ok)
        await database.synced.put({ id, kind, key, revision: outcome.revision, body: isImmutable(kind) ? null : body })
      else if ('conflict' in outcome)
        await takeObject({ kind, key, revision: outcome.conflict.revision, body: outcome.conflict.body })
      else
        await database.synced.put({
          ...(synced ?? { id, kind, key, revision: 0, body: null }),
          refusal: { body, message: outcome.problem.message },
        } satisfies Synced)
    }
  })
}

/** Forgets which objects the receiver knows, so that all of them are compared with what it has. */
export async function compareAnew(): Promise<void> {
  await writeSetting('objects', { cursor: 0, mark: '' })
}
