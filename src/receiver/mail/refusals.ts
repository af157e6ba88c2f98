import type { MemberId } from '#core/ids'
import type { QueuedMail } from './queued'
import type { MailRefusal } from './transport'

/** So many people refused in the same words, and nobody taken meanwhile, is no coincidence of addresses. */
const ALIKE = 3
/** So many are none even where each refusal names a mailbox, and the server took somebody a while ago. */
const MANY = 8
/** How long an accepted mail shows that the server takes mail from us. */
const TAKES_OTHERS_MS = 60 * 60_000
/** Mails that wait for a judgement; of more, the oldest are judged when they are tried again. */
const MOST_WAITING = 2_000

/** What to do with a mail that was refused. */
export type Consequence = 'mark' | 'give-up' | 'later'

export interface RefusalJudgement {
  consequence: Consequence
  /** Where the server refuses all recipients: ids of the refused mails, to be requeued. */
  everybody: QueuedMail['id'][] | null
  /** Members whose bounce mark is overturned, because the server refused everybody from then on. */
  overturned: MemberId[]
}

/**
 * Tells a refused person from a refused sender by what the same server says to others. A refusal that names the mailbox
 * counts where it took somebody else within the hour; one that does not, or that is one of several in a row, where it took
 * somebody else since. Until then the mail waits. In memory: after a start it is learned anew.
 */
export class Refusals {
  /** By address, when the server took a mail to it: the newest two, so that one of them is somebody else. */
  private readonly taken = new Map<string, number>()
  /** Since the last mail that was taken: by what was said, the mails it was said of, one a recipient. */
  private readonly alike = new Map<string, Map<string, QueuedMail['id']>>()
  /** When each mail was refused that waits for somebody else to be taken, and whether it was tried again since one was. */
  private readonly waiting = new Map<QueuedMail['id'], { at: number; isTriedAgain: boolean }>()
  /** Marked since the last mail that was taken. */
  private marked: MemberId[] = []
  /** What was said last, where nothing was taken since, and it was of us; null where something was. */
  said: string | null = null

  /** @param now milliseconds of a clock that does not leap */
  constructor(private readonly now: () => number) {}

  /** @returns mails that can be judged now: they are tried again, once */
  takes({ id, compared }: Pick<QueuedMail, 'id' | 'compared'>): QueuedMail['id'][] {
    this.waiting.delete(id)
    this.taken.delete(compared)
    this.taken.set(compared, this.now())
    for (const [first] of this.taken) if (this.taken.size > 2) this.taken.delete(first)
    const triedAgain: QueuedMail['id'][] = []
    for (const [other, { at, isTriedAgain }] of this.waiting) {
      // Whatever comes of it, once: what is put off meanwhile waits as long as it would have.
      if (isTriedAgain || this.now() - at >= TAKES_OTHERS_MS) continue
      this.waiting.set(other, { at, isTriedAgain: true })
      triedAgain.push(other)
    }
    this.forget()
    return triedAgain
  }

  /** Forgets earlier refusals. */
  forget(): void {
    this.said = null
    this.alike.clear()
    this.marked = []
  }

  /** What to do with a mail that was refused. */
  refused(mail: QueuedMail, { cause, code, key, said }: MailRefusal): RefusalJudgement {
    // An answer of 4xx, or none, is nobody's refusal.
    if (code === null || code < 500) return { consequence: 'later', everybody: null, overturned: [] }
    const isPersons = cause === 'person' || cause === 'unclear'
    const same = this.alike.get(key) ?? new Map<string, QueuedMail['id']>()
    this.alike.set(key, same.set(mail.compared, mail.id))
    const tookOther = Math.max(-Infinity, ...[...this.taken].map(([to, at]) => (to === mail.compared ? -Infinity : at)))
    const isKnownToTake = this.now() - tookOther < TAKES_OTHERS_MS
    const limit = isPersons && isKnownToTake ? MANY : ALIKE
    const all = [...this.alike.values()].flatMap((mails) => [...mails])
    const inARow = new Set(all.map(([to]) => to)).size
    if (same.size >= limit || inARow >= MANY) {
      const overturned = this.marked
      this.marked = []
      this.said = said
      return { consequence: 'later', everybody: all.map(([, id]) => id), overturned }
    }
    if (!isPersons) {
      this.said = said
      return { consequence: cause === 'mail' ? 'give-up' : 'later', everybody: null, overturned: [] }
    }
    const before = this.waiting.get(mail.id)
    const tookSince = before !== undefined && tookOther >= before.at
    if (isKnownToTake && (tookSince || (cause === 'person' && inARow < ALIKE))) {
      this.waiting.delete(mail.id)
      if (mail.space === '' && mail.member !== '') this.marked.push(mail.member)
      return { consequence: 'mark', everybody: null, overturned: [] }
    }
    this.waiting.set(mail.id, before ?? { at: this.now(), isTriedAgain: false })
    for (const [first] of this.waiting) if (this.waiting.size > MOST_WAITING) this.waiting.delete(first)
    return { consequence: 'later', everybody: null, overturned: [] }
  }
}
