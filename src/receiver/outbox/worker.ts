import type { Delivery } from '#core/mail'
import type { Ledger } from '../ledger'
import type { QueuedMail } from '../store/engine'
import { compose, type ComposeParts, type ComposedMail, NotNeeded } from './compose'
import { throughOf } from './own-inbox'
import { Refusals } from './refusals'
import { SentCounts } from './sent-counts'
import { type OutboxSettings, type Pace, readOutboxSettings, type SmtpServer, standInPace } from './settings'
import { openTransport, refusalOf, type Transport } from './transport'

const MINUTE_MS = 60_000
const HOUR_MS = 3_600_000
const DAY_MS = 86_400_000
/** Tries after one that may pass: soon, then less and less often, for two days (RFC 5321, section 4.5.4.1, asks for four to five days at a server; a sign-up is not worth that). */
const RETRIES_MS = [MINUTE_MS, 5 * MINUTE_MS, 15 * MINUTE_MS, HOUR_MS, 4 * HOUR_MS, 12 * HOUR_MS, DAY_MS]
const AT_ONCE = 4
/** While the server refuses everybody, one mail asks now and then whether it still does. */
const PROBE_EVERY_MS = HOUR_MS
/** Within what services are given to stop. */
const STOP_MS = 20_000
/** Nothing can be looked for more seldom: who waits too long is removed, the clock may have moved. */
const LONGEST_PAUSE_MS = 30_000
/** Looking after every commit would slow down who signs up; a mail can wait so long. */
const NEWS_PAUSE_MS = 50

export interface SenderParts {
  ledger: Ledger
  /** From `SMTP_URL`, which goes before what was set on screen. */
  fixedServer: SmtpServer | null
  /** Whether a server is the stand-in mailbox, which takes made-up people's mail too. */
  isStandIn(server: SmtpServer): boolean
  compose: Omit<ComposeParts, 'linkKey'>
  /** Takes a made-up person's mail where no stand-in mailbox runs: it is judged there and never sent. */
  keepForRehearsal(mail: QueuedMail, composed: ComposedMail): Promise<void>
  now(): number
  /** Milliseconds of a clock that does not leap. */
  steady?(): number
  open?: typeof openTransport
}

/** Works off the outbox. Sign-ups never wait for it: it reads what was committed, and writes what came of it. */
export class Sender {
  private transport: { transport: Transport; for: string } | null = null
  private timer: ReturnType<typeof setTimeout> | null = null
  private isWorking = false
  private isWoken = false
  private isWaking = false
  private isEnded = false
  private readonly refusals = new Refusals(() => performance.now())
  private probedAt = -Infinity
  private readonly sent: SentCounts

  constructor(private readonly parts: SenderParts) {
    const now = parts.now()
    const before = parts.ledger.outbox.sentSince(now - DAY_MS).map(({ at, count }) => ({ ageMs: now - at, count }))
    this.sent = new SentCounts(parts.steady ?? (() => performance.now()), before)
  }

  async start(): Promise<() => Promise<void>> {
    await this.parts.ledger.outbox.putBack()
    const stopListening = this.parts.ledger.onMail(() => this.wake(NEWS_PAUSE_MS))
    this.wake()
    return async () => {
      this.isEnded = true
      stopListening()
      if (this.timer !== null) clearTimeout(this.timer)
      const until = performance.now() + STOP_MS
      while (this.isWorking && performance.now() < until) await new Promise((resolve) => setTimeout(resolve, 5))
      // A server that has not answered by now is not waited for: what was in hand goes out again.
      this.transport?.transport.close()
    }
  }

  settings(): OutboxSettings {
    return readOutboxSettings(this.parts.ledger.outbox.settings())
  }

  server(): SmtpServer | null {
    return this.parts.fixedServer ?? this.settings().server
  }

  /** How far it is known that a list's mail arrives. */
  delivery(list: string): Delivery {
    const server = this.server()
    if (server === null) return { state: 'no-server', said: '' }
    const { halted, ownInboxes, followed } = this.settings()
    const said = halted?.said ?? this.refusals.said
    if (said !== null) return { state: 'refused', said }
    if (this.parts.isStandIn(server)) return { state: 'stand-in', said: '' }
    const through = this.through(list)
    const isRead = ownInboxes.some((one) => one.list === list && one.arrivedAt !== null && one.through === through)
    return { state: isRead || (through !== null && followed[list] === through) ? 'arrived' : 'untried', said: '' }
  }

  /** Somebody real followed a link in a mail of a list, which therefore arrived. */
  async followed(list: string): Promise<void> {
    const through = this.through(list)
    const { followed } = this.settings()
    if (through !== null && followed[list] !== through) await this.keep({ followed: { ...followed, [list]: through } })
  }

  private through(list: string): string | null {
    const [mail, server] = [this.parts.ledger.published().mail(list), this.server()]
    return mail === null || server === null ? null : throughOf(mail, server)
  }

  pace(): Pace {
    const server = this.server()
    return server !== null && this.parts.isStandIn(server) ? standInPace : this.settings().pace
  }

  /** When the last of what waits will be out at this pace, in milliseconds since 1970; null when nothing waits or goes. */
  lastOutAt(): number | null {
    const waiting = this.parts.ledger.outbox.count('waiting')
    if (waiting === 0 || this.server() === null || this.settings().isStopped) return null
    const { minute, hour, day } = this.pace()
    const needs = Math.max(
      waiting / minute / 60,
      waiting > hour ? waiting / hour : 0,
      waiting > day ? (waiting / day) * 24 : 0,
    )
    return this.parts.now() + Math.ceil(needs * 60) * MINUTE_MS
  }

  /** Settings were changed, or mail was queued. Asked again before `pause` milliseconds are over, it stays as it was. */
  wake(pause = 0): void {
    if (this.isEnded) return
    this.isWoken = true
    if (this.isWorking || (this.isWaking && pause > 0)) return
    if (this.timer !== null) clearTimeout(this.timer)
    this.isWaking = true
    // After what is being answered now.
    this.timer = setTimeout(() => void this.work(), pause)
  }

  private async work(): Promise<void> {
    if (this.isWorking || this.isEnded) return
    this.isWorking = true
    this.isWaking = false
    let pause = LONGEST_PAUSE_MS
    try {
      do {
        this.isWoken = false
        pause = await this.round()
      } while ((this.isWoken || pause === 0) && !this.isEnded)
    } catch (error) {
      console.error(error)
    }
    this.isWorking = false
    if (!this.isEnded) this.timer = setTimeout(() => void this.work(), Math.min(pause, LONGEST_PAUSE_MS))
  }

  /** Sends what is due and allowed; milliseconds until there may be more to do. */
  private async round(): Promise<number> {
    const { ledger, now } = this.parts
    const { outbox } = ledger
    const due = outbox.due(AT_ONCE * 8)
    const server = this.server()
    const { isStopped, halted, dkim } = this.settings()
    const isStandIn = server !== null && this.parts.isStandIn(server)
    // Made-up people's mail goes where it is judged, whatever becomes of real mail.
    const mine = due.filter(({ space }) => space !== '' && !isStandIn)
    await Promise.all(mine.map((mail) => this.sendOne(mail, null)))
    const rest = due.filter((mail) => !mine.includes(mail))
    if (rest.length === 0) {
      const next = outbox.nextDue()
      return mine.length > 0 ? 0 : next === null ? LONGEST_PAUSE_MS : Math.max(50, next - now())
    }
    if (server === null || isStopped) return LONGEST_PAUSE_MS
    const allowed = this.allowedNow()
    if (allowed === 0) return 1_000
    const transport = this.transportFor(server, dkim)
    const isHalted = halted !== null
    if (isHalted) {
      const waitMs = this.probedAt + PROBE_EVERY_MS - performance.now()
      if (waitMs > 0) return Math.min(waitMs, LONGEST_PAUSE_MS)
      this.probedAt = performance.now()
    }
    const batch = rest.slice(0, isHalted ? 1 : Math.min(allowed, AT_ONCE * 8))
    for (
      let at = 0;
      at < batch.length && !this.isEnded && isHalted === (this.settings().halted !== null);
      at += AT_ONCE
    )
      await Promise.all(batch.slice(at, at + AT_ONCE).map((mail) => this.sendOne(mail, transport)))
    return 0
  }

  private allowedNow(): number {
    const { minute, hour, day } = this.pace()
    const sent = this.sent.counts()
    return Math.max(0, Math.min(minute - sent.minute, hour - sent.hour, day - sent.day))
  }

  private transportFor(server: SmtpServer, dkim: OutboxSettings['dkim']): Transport {
    const wanted = JSON.stringify([server, dkim])
    if (this.transport?.for !== wanted) {
      this.transport?.transport.close()
      this.transport = { transport: (this.parts.open ?? openTransport)(server, dkim), for: wanted }
    }
    return this.transport.transport
  }

  /** One mail, from taking it in hand to writing down what came of it. */
  private async sendOne(mail: QueuedMail, transport: Transport | null): Promise<void> {
    const { ledger, now } = this.parts
    const { outbox } = ledger
    if (!(await outbox.take(mail.id))) return
    try {
      const composed = compose(mail, { ...this.parts.compose, linkKey: await ledger.linkKey() })
      if (transport === null) {
        await this.parts.keepForRehearsal(mail, composed)
        await outbox.settle(mail.id, { state: 'sent', said: 'Kept for the rehearsal; not sent.' })
      } else {
        const said = await transport.send(composed)
        this.refusals.taken()
        this.sent.sent()
        await outbox.settle(mail.id, { state: 'sent', said })
        if (this.settings().halted !== null) await this.goOn()
      }
    } catch (error) {
      // Whatever is wrong with one mail is its own trouble: all others go on.
      if (error instanceof NotNeeded) return outbox.settle(mail.id, { state: 'dropped', said: error.message })
      const refusal = refusalOf(error)
      const { said } = refusal
      const { consequence, alike } = this.refusals.refused(mail, refusal)
      const pause = RETRIES_MS[mail.attempts]
      if (consequence === 'mark') return outbox.settle(mail.id, { state: 'refused', said, isAddress: true })
      await outbox.settle(
        mail.id,
        consequence === 'later' && pause !== undefined
          ? { state: 'later', said, due: now() + pause }
          : { state: 'refused', said, isAddress: false },
      )
      if (alike !== null) await this.halt(said, alike)
    }
  }

  /** The server refuses whoever it is to: what was refused waits again, with all the rest, until it takes one. */
  private async halt(said: string, refused: readonly QueuedMail['id'][]): Promise<void> {
    const { outbox } = this.parts.ledger
    for (const id of refused) await outbox.tryAgain(id)
    this.probedAt = performance.now()
    if (this.settings().halted !== null) return
    await this.keep({ halted: { at: this.parts.now(), said } })
  }

  /** Ends what was halted: by its owner, or because the server took a mail. */
  async goOn(): Promise<void> {
    this.refusals.taken()
    await this.keep({ halted: null })
    await this.parts.ledger.outbox.hurry()
    this.wake()
  }

  private async keep(changes: Partial<OutboxSettings>): Promise<void> {
    await this.parts.ledger.outbox.keepSettings(JSON.stringify({ ...this.settings(), ...changes }))
  }
}
