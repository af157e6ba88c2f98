import type { MemberId } from '#core/ids'
import { domainOf } from '#core/mail'
import type { QueuedMail } from './queued'
import { type AlikeOutcomes, RecentOutcomes } from './recent-outcomes'
import type { MailRefusal } from './transport'

/** So many people refused in the same words, and nobody taken meanwhile, is no coincidence of addresses. */
const ALIKE = 3
/** So many are none even where each refusal names a mailbox, and the server took somebody a while ago. */
const MANY = 8
/** Refusals alike are none of addresses where they are so many of what was taken beside them: every third, or more. */
const SHARE_OF_TAKEN = 0.5
/** For so long words that were no fault of addresses are none of theirs, however few are refused in them by then. */
const MISTRUSTED_MS = 24 * 60 * 60_000
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
  /** Members whose bounce mark is overturned, because it was no fault of their addresses. */
  overturned: MemberId[]
  /** Their mails, which are tried again like others that wait. */
  again: QueuedMail['id'][]
  /** A domain that takes none of us, while others do; what waits for it waits for the next look. */
  domain: { name: string; said: string } | null
}

const waits: RefusalJudgement = { consequence: 'later', everybody: null, overturned: [], again: [], domain: null }

/**
 * Tells a refused person from a refused sender by what the same server says to others. A refusal that names the mailbox
 * counts where it took somebody else within the hour; one that does not, or that is one of several in a row, where it took
 * somebody else since. Until then the mail waits. Refusals that are many among what one domain, or the server, was sent
 * within the hour mark nobody, whoever else is taken meanwhile. In memory: after a start it is learned anew.
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
  private readonly recent: RecentOutcomes
  /** Until when words are no person's, by domain and key; `*` is every domain. */
  private readonly mistrusted = new Map<string, number>()

  constructor(private readonly now: () => number) {
    this.recent = new RecentOutcomes(now)
  }

  /** @returns mails that can be judged now: they are tried again, once */
  takes(mail: Pick<QueuedMail, 'id' | 'compared' | 'member'>): QueuedMail['id'][] {
    const { id, compared } = mail
    this.recent.took(mail)
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

  /** A domain takes mail again: what it said before is over. */
  domainTakes(domain: string): void {
    this.recent.forget(domain)
  }

  /** What to do with a mail that was refused. */
  refused(mail: QueuedMail, refusal: MailRefusal): RefusalJudgement {
    const { cause, code, key, said } = refusal
    // An answer of 4xx, or none, is nobody's refusal.
    if (code === null || code < 500) return waits
    const isPersons = cause === 'person' || cause === 'unclear'
    this.recent.refused(mail, key)
    const same = this.alike.get(key) ?? new Map<string, QueuedMail['id']>()
    this.alike.set(key, same.set(mail.compared, mail.id))
    const tookOther = Math.max(-Infinity, ...[...this.taken].map(([to, at]) => (to === mail.compared ? -Infinity : at)))
    const isKnownToTake = this.now() - tookOther < TAKES_OTHERS_MS
    const limit = isPersons && isKnownToTake ? MANY : ALIKE
    const all = [...this.alike.values()].flatMap((mails) => [...mails])
    const inARow = new Set(all.map(([to]) => to)).size
    // Refusals in a row of one domain alone tell of that domain, where another took somebody.
    const isOneDomain = new Set(all.map(([to]) => domainOf(to))).size === 1
    const isOfDomain = isOneDomain && this.recent.tookElsewhere(domainOf(mail.compared))
    if ((same.size >= limit || inARow >= MANY) && !isOfDomain) {
      const overturned = this.marked
      this.marked = []
      this.said = said
      return { ...waits, everybody: all.map(([, id]) => id), overturned }
    }
    const shared = this.sharedBy(mail, refusal)
    if (shared !== null) return shared
    if (!isPersons) {
      this.said = said
      return { ...waits, consequence: cause === 'mail' ? 'give-up' : 'later' }
    }
    const before = this.waiting.get(mail.id)
    const tookSince = before !== undefined && tookOther >= before.at
    if (isKnownToTake && (tookSince || (cause === 'person' && inARow < ALIKE))) {
      this.waiting.delete(mail.id)
      if (mail.space === '' && mail.member !== '') {
        this.marked.push(mail.member)
        this.recent.mark(mail, true)
      }
      return { ...waits, consequence: 'mark' }
    }
    this.waiting.set(mail.id, before ?? { at: this.now(), isTriedAgain: false })
    for (const [first] of this.waiting) if (this.waiting.size > MOST_WAITING) this.waiting.delete(first)
    return waits
  }

  /** What is no coincidence among those of one domain, or of all, who share a refusal; null for one that is a person's. */
  private sharedBy(mail: QueuedMail, { cause, key, said, stage }: MailRefusal): RefusalJudgement | null {
    if (stage === 'other') return null
    const name = domainOf(mail.compared)
    const here = this.recent.alike(key, name)
    const isMany = ({ refused, taken }: AlikeOutcomes, least: number) =>
      refused.length >= least && refused.length >= SHARE_OF_TAKEN * taken
    if (this.recent.tookElsewhere(name) && isMany(here, cause === 'person' && here.taken > 0 ? MANY : ALIKE)) {
      const isHeld = here.takenSince === 0
      // Marked once, it is not marked anew: they are put back by this.
      for (const { id } of here.refused) this.waiting.delete(id)
      this.mistrust(name, key)
      return { ...waits, ...this.unmarked(here), domain: isHeld ? { name, said } : null }
    }
    const everywhere = this.recent.alike(key, null)
    if (everywhere.domains > 1 && everywhere.taken > 0 && isMany(everywhere, MANY)) this.mistrust('*', key)
    if (!this.isMistrusted('*', key)) return this.isMistrusted(name, key) ? { ...waits, ...this.unmarked(here) } : null
    return { ...waits, ...this.unmarked(everywhere) }
  }

  private mistrust(domain: string, key: string): void {
    this.mistrusted.set(`${domain} ${key}`, this.now() + MISTRUSTED_MS)
    for (const [first] of this.mistrusted) if (this.mistrusted.size > MOST_WAITING) this.mistrusted.delete(first)
  }

  private isMistrusted(domain: string, key: string): boolean {
    return (this.mistrusted.get(`${domain} ${key}`) ?? 0) > this.now()
  }

  private unmarked({ marked }: AlikeOutcomes): Pick<RefusalJudgement, 'overturned' | 'again'> {
    for (const mail of marked) this.recent.mark(mail, false)
    const overturned = marked.map(({ member }) => member as MemberId)
    this.marked = this.marked.filter((one) => !overturned.includes(one))
    return { overturned, again: marked.map(({ id }) => id) }
  }
}
