import { type Body, type Change, decideChange, type Kept, type Kind, kindOf } from '#core/sync'
import { newId } from '../random'
import type { Newest, StoredObject, Transaction } from '../store/engine'
import type { ChangeOutcome } from './ledger'

/** One writer of what the owner makes. */
export class ObjectWriter {
  /**
   * @param newest the last change; has to be read anew after work was undone
   * @param taken called with every object as it now is
   */
  constructor(
    public newest: Newest,
    private readonly taken: (object: StoredObject) => void,
  ) {}

  take(transaction: Transaction, change: Change): ChangeOutcome {
    const { kind, key } = change
    const stored = transaction.object(kind, key)
    const decision = decideChange(change, stored === null ? null : keptOf(stored), (ofKind, ofKey) => {
      const found = transaction.object(ofKind, ofKey)
      return found !== null && !found.isDeleted
    })
    if (!decision.ok) {
      return 'problem' in decision
        ? { kind, key, ok: false, problem: decision.problem }
        : { kind, key, ok: false, conflict: { revision: decision.conflict.revision, body: decision.conflict.body } }
    }
    if (!decision.isNews) return { kind, key, ok: true, revision: stored?.revision ?? 0 }
    if (kindOf(kind).stored !== undefined && transaction.picture(key) === null) {
      return {
        kind,
        key,
        ok: false,
        problem: { code: 'broken-reference', message: 'The picture’s bytes have not been sent.' },
      }
    }
    const revision = this.newest.n + 1
    // Any text that is never the same twice: it only tells one history of changes from another.
    const mark = newId<string>()
    const object: StoredObject = {
      kind,
      key,
      revision,
      body: decision.body ?? (stored!.body as Body),
      isDeleted: decision.body === null,
    }
    transaction.keepObject(object)
    transaction.keepChange(revision, mark)
    this.newest = { n: revision, mark }
    this.taken(object)
    forgetOlder(transaction, kind, object.body)
    return { kind, key, ok: true, revision }
  }
}

/** Of kinds of which only the newest are kept, those of the same holder that are older. */
function forgetOlder(transaction: Transaction, kind: Kind, body: Body): void {
  const { newest } = kindOf(kind)
  if (newest === undefined) return
  const holder = (one: Body) => (one as unknown as Record<string, unknown>)[newest.by]
  const alike = transaction.objectsOf(kind).filter((object) => holder(object.body) === holder(body))
  for (const { key } of alike.slice(0, -newest.count)) transaction.removeObject(kind, key)
}

export function keptOf({ kind, key, revision, body, isDeleted }: StoredObject): Kept {
  return { kind, key, revision, body: isDeleted ? null : body } as Kept
}
