import { createHash } from 'node:crypto'
import type { ChangeOutcome } from '#core/api'
import type { Form } from '#core/form'
import type { FormId } from '#core/ids'
import type { Picture } from '#core/picture'
import type { Body, Change, Kept, Kind } from '#core/sync'
import { isSameHistory, type HistoryPage } from '../page'
import type { Writing } from '../writing'
import type { Published } from './published'
import { keptOf, takeChange } from './take-change'

export type PictureResult = { ok: true } | { ok: false; code: 'wrong-id'; message: string }

/** What the owner makes. */
export interface Objects {
  /**
   * Takes in changes, each by itself.
   *
   * @param by id of the key that they came with
   */
  takeChanges(changes: readonly Change[], by?: string): Promise<ChangeOutcome[]>
  /** The same, whole or not at all: where one is not taken, none is, and its outcome tells why. */
  takeChangesTogether(changes: readonly Change[], by?: string): Promise<ChangeOutcome[]>
  /** Objects changed after a revision. Null when `mark` is not the one that this history has there. */
  objectsAfter(after: number, mark: string | null, limit: number): Promise<HistoryPage<Kept> | null>
  latestChange(): Promise<number>
  picture(id: string): Promise<Picture | null>
  keepPicture(picture: Picture): Promise<PictureResult>
  /** What visitors can meet, found by id. Kept in memory: read on every sign-up. */
  published(): Published
  /** All of a kind that were not taken away. */
  objectsOf(kind: Kind): Promise<Body[]>
  /** What its owner calls a form; empty for one that was taken away. */
  formName(form: FormId): Promise<string>
}

/** Undoes a transaction in which one of several changes was not taken. */
class NotTogether extends Error {
  constructor(readonly outcomes: ChangeOutcome[]) {
    super('One of the changes was not taken.')
  }
}

export const openObjects = ({ engine, run, runWithObjects, published, now }: Writing): Objects => ({
  takeChanges: (changes, by) =>
    Promise.all(
      changes.map((change) =>
        runWithObjects((transaction, taken) => takeChange(transaction, change, taken, { by, now: now() })),
      ),
    ),
  takeChangesTogether: (changes, by) =>
    runWithObjects(async (transaction, taken) => {
      const outcomes: ChangeOutcome[] = []
      for (const change of changes) outcomes.push(await takeChange(transaction, change, taken, { by, now: now() }))
      if (outcomes.some(({ ok }) => !ok)) throw new NotTogether(outcomes)
      return outcomes
    }).catch((error: unknown) => {
      if (error instanceof NotTogether) return error.outcomes
      throw error
    }),
  async objectsAfter(after, mark, limit) {
    const [newest, here] = await Promise.all([engine.now.newestChange(), engine.now.changeMark(after)])
    if (after > newest.n || !isSameHistory(mark, after, here)) return null
    const page = await engine.now.objectsAfter(after, limit)
    // The last page ends at the newest change, whichever object that was.
    const cursor = page.length < limit ? newest.n : page.at(-1)!.revision
    const at = (await engine.now.changeMark(cursor)) ?? ''
    return { items: page.map(keptOf), cursor, mark: at, latest: newest.n }
  },
  latestChange: async () => (await engine.now.newestChange()).n,
  picture: (id) => engine.now.picture(id),
  async keepPicture(picture) {
    const digest = createHash('sha256').update(Buffer.from(picture.bytes, 'base64')).digest('hex')
    if (!digest.startsWith(picture.id))
      return { ok: false, code: 'wrong-id', message: 'A picture is named after its bytes, and this one is not.' }
    await run(async (transaction) => {
      if ((await transaction.picture(picture.id)) === null) await transaction.keepPicture(picture)
    })
    return { ok: true }
  },
  published: () => published,
  objectsOf: async (kind) =>
    (await engine.now.objectsOf(kind)).filter(({ isDeleted }) => !isDeleted).map(({ body }) => body),
  async formName(form) {
    const stored = await engine.now.object('form', form)
    return stored === null || stored.isDeleted ? '' : (stored.body as Form).name
  },
})
