import type { MailState, Pace, SmtpServer } from '#core/api'
import type { MemberId } from '#core/ids'
import { type Delivery, domainOf } from '#core/mail'
import { type Ledger } from '../ledger'
import { MAIL, mailOf, type QueuedMail } from './queued'
import { type Job, Lane, LATER, LONGEST_REST_MS, pauseAfter, SentCounts } from '../work'
import { compose, type ComposeParts, type ComposedMail, NotNeeded } from './compose'
import { throughOf } from './own-inbox'
import { Refusals } from './refusals'
import { KeptMailSettings, MOST_REFUSING, type MailServerSettings, standInPace } from './settings'
import { openTransport, refusalOf, type Transport } from './transport'

const MINUTE_MS = 60_000
const HOUR_MS = 3_600_000
const DAY_MS = 86_400_000
const AT_ONCE = 4
/** While the server refuses everybody, one mail asks now and then whether it still does. */
const PROBE_EVERY_MS = HOUR_MS
/** After so long a mail to a domain that takes none of us is given up: four to five days (RFC 5321, section 4.5.4.1). */
const LONGEST_HELD_MS = 5 * DAY_MS
/** Waiting mails that are looked through at once. */
const MOST_LOOKED_AT = 5_000
const PROBED = 'mail-probed'
/** Within what services are given to stop. */
const STOP_MS = 9_000
/** Of what may go in a minute, an hour and a day, this share is kept for mail that somebody waits for; of fewer than ten, none: the rest has to go too. */
const RESERVED = 0.1

export interface SenderParts {
  ledger: Ledger
  /** From `SMTP_URL`, which overrides the settings on screen. */
  fixedServer: SmtpServer | null
  /** Whether a server is the stand-in mailbox, which takes made-up people's mail too. */
  isStandIn(server: SmtpServer): boolean
  compose: Omit<ComposeParts, 'keys'>
  /** Takes a made-up person's mail where no stand-in mailbox runs: it is judged there and never sent. */
  keepForRehearsal(mail: QueuedMail, composed: ComposedMail): Promise<void>
  now(): number
  /** Milliseconds of a clock that does not leap. */
  steady?(): number
  open?: typeof openTransport
}

/** Sends queued mail. Sign-ups never wait for it: it works on committed jobs. */
export class Sender {
  private transport: { transport: Transport; for: string } | null = null
  private readonly lane: Lane
  private readonly refusals = new Refusals(() => performance.now())
  private readonly kept: KeptMailSettings
  private sent: SentCounts | null = null

  constructor(private readonly parts: SenderParts) {
    this.kept = new KeptMailSettings(parts.ledger.values)
    this.lane = new Lane(parts.ledger.queue, parts.now, {
      worker: MAIL,
      ready: async () => ({ most: AT_ONCE * 8 }),
      work: (due) => this.send(due),
      // What others sent meanwhile counts too.
      begin: async () => void (this.sent = null),
      stopMs: STOP_MS,
    })
  }

  start(): () => Promise<void> {
    const stop = this.lane.start(this.parts.ledger.onMail)
    return async () => {
      await stop()
      // A server that has not answered by now is not waited for: mails in hand are sent again once their lease is over.
      this.transport?.transport.close()
    }
  }

  /** Settings were changed, or there is something to try again. */
  wake(): void {
    this.lane.wake()
  }

  settings(): Promise<MailServerSettings> {
    return this.kept.read()
  }

  /** Changes how mail is sent; from then on it is. */
  async change(changesTo: (before: MailServerSettings) => Partial<MailServerSettings>): Promise<void> {
    await this.kept.change(changesTo)
    this.wake()
  }

  async server(): Promise<SmtpServer | null> {
    return this.serverIn(await this.settings())
  }

  private serverIn({ server }: MailServerSettings): SmtpServer | null {
    return this.parts.fixedServer ?? server
  }

  /** How far it is known that each list's mail arrives. */
  async deliveries(): Promise<Record<string, Delivery>> {
    const settings = await this.settings()
    const lists = this.parts.ledger.published().mailingLists()
    return Object.fromEntries(lists.map((list) => [list, this.deliveryOf(list, settings)]))
  }

  private deliveryOf(list: string, settings: MailServerSettings): Delivery {
    const server = this.serverIn(settings)
    if (server === null) return { state: 'no-server', said: '' }
    const { halted, ownInboxes, followed } = settings
    const said = halted?.said ?? this.refusals.said
    if (said !== null) return { state: 'refused', said }
    if (this.parts.isStandIn(server)) return { state: 'stand-in', said: '' }
    const through = this.through(list, server)
    const isRead = ownInboxes.some((one) => one.list === list && one.arrivedAt !== null && one.through === through)
    return { state: isRead || (through !== null && followed[list] === through) ? 'arrived' : 'untried', said: '' }
  }

  /** Somebody real followed a link in a mail of a list, which therefore arrived. */
  async followed(list: string): Promise<void> {
    const settings = await this.settings()
    const through = this.through(list, this.serverIn(settings))
    if (through !== null && settings.followed[list] !== through)
      await this.kept.change((before) => ({ followed: { ...before.followed, [list]: through } }))
  }

  private through(list: string, server: SmtpServer | null): string | null {
    const mail = this.parts.ledger.published().mail(list)
    return mail === null || server === null ? null : throughOf(mail, server)
  }

  private paceIn(settings: MailServerSettings): Pace {
    const server = this.serverIn(settings)
    return server !== null && this.parts.isStandIn(server) ? standInPace : settings.pace
  }

  /** When the last waiting mail will be out at this pace, in milliseconds since 1970; null when none waits or sending is off. */
  async lastOutAt(): Promise<number | null> {
    return (await this.outlook(0)).lastOutAt
  }

  /**
   * What the pace means for so many mails more, that nobody waits for: when the last of all will be out, in milliseconds
   * since 1970; null where there are none, or where nothing is sent.
   */
  async outlook(more: number): Promise<{ lastOutAt: number | null; pace: Pace; isStandIn: boolean }> {
    const settings = await this.settings()
    const server = this.serverIn(settings)
    const { open, held } = await this.parts.ledger.queue.counts(MAIL)
    const waiting = open - held + more
    const pace = this.paceIn(settings)
    const isStandIn = server !== null && this.parts.isStandIn(server)
    if (waiting === 0 || server === null || settings.isStopped) return { lastOutAt: null, pace, isStandIn }
    const room = (most: number) => (more === 0 ? most : most - Math.floor(most * RESERVED))
    const [minute, hour, day] = [room(pace.minute), room(pace.hour), room(pace.day)]
    const needs = Math.max(
      waiting / minute / 60,
      waiting > hour ? waiting / hour : 0,
      waiting > day ? (waiting / day) * 24 : 0,
    )
    return { lastOutAt: this.parts.now() + Math.ceil(needs * 60) * MINUTE_MS, pace, isStandIn }
  }

  /** Sends due mails within the pace; milliseconds until there may be more to do. */
  private async send(jobs: readonly Job[]): Promise<number> {
    const laterIds = new Set(jobs.filter(({ priority }) => priority >= LATER).map(({ id }) => id))
    const due = jobs.map(mailOf)
    const settings = await this.settings()
    const server = this.serverIn(settings)
    const isStandIn = server !== null && this.parts.isStandIn(server)
    // Mail to made-up people is kept for its rehearsal, even while real mail is stopped.
    const mine = due.filter(({ space }) => space !== '' && !isStandIn)
    await Promise.all(mine.map((mail) => this.sendOne(mail, null)))
    const rest = due.filter((mail) => !mine.includes(mail))
    if (rest.length === 0) return 0
    if (server === null || settings.isStopped) return LONGEST_REST_MS
    const awaited = rest.filter(({ id }) => !laterIds.has(id))
    const allowed = await this.allowedNow(settings, awaited.length === 0)
    if (allowed === 0) return 1_000
    const transport = this.transportFor(server, settings.dkim)
    const isHalted = settings.halted !== null
    if (isHalted) {
      // Of a clock that was put back, no more than the whole.
      const waitMs = Math.min(PROBE_EVERY_MS, (await this.probedAt()) + PROBE_EVERY_MS - this.parts.now())
      if (waitMs > 0) return Math.min(waitMs, LONGEST_REST_MS)
      await this.probes()
    }
    const going = await this.withoutRefusing(awaited.length > 0 ? awaited : rest, settings)
    const batch = going.slice(0, isHalted ? 1 : Math.min(allowed, AT_ONCE * 8))
    for (let at = 0; at < batch.length && !this.lane.hasEnded; at += AT_ONCE) {
      if (isHalted !== ((await this.settings()).halted !== null)) break
      await Promise.all(batch.slice(at, at + AT_ONCE).map((mail) => this.sendOne(mail, transport)))
    }
    return 0
  }

  /** @param mayWait whether nobody waits for what would go: it leaves room for mail that somebody does wait for */
  private async allowedNow(settings: MailServerSettings, mayWait: boolean): Promise<number> {
    const { minute, hour, day } = this.paceIn(settings)
    const sent = (await this.sentCounts()).counts()
    const room = (pace: number) => (mayWait ? pace - Math.floor(pace * RESERVED) : pace)
    return Math.max(0, Math.min(room(minute) - sent.minute, room(hour) - sent.hour, room(day) - sent.day))
  }

  /** When it was asked last whether the server still refuses everybody: by whichever process. */
  private async probedAt(): Promise<number> {
    return Number((await this.parts.ledger.values.value(PROBED)) ?? -Infinity)
  }

  private probes(): Promise<void> {
    return this.parts.ledger.values.keep(PROBED, this.parts.now())
  }

  /** With what earlier processes sent. */
  private async sentCounts(): Promise<SentCounts> {
    if (this.sent !== null) return this.sent
    const now = this.parts.now()
    const before = await this.parts.ledger.queue.doneSince(MAIL, now - DAY_MS)
    this.sent ??= new SentCounts(
      this.parts.steady ?? (() => performance.now()),
      before.map(({ at, count }) => ({ ageMs: now - at, count })),
    )
    return this.sent
  }

  private transportFor(server: SmtpServer, dkim: MailServerSettings['dkim']): Transport {
    const wanted = JSON.stringify([server, dkim])
    if (this.transport?.for !== wanted) {
      this.transport?.transport.close()
      this.transport = { transport: (this.parts.open ?? openTransport)(server, dkim), for: wanted }
    }
    return this.transport.transport
  }

  /** One mail, from the lease to its settling. */
  private async sendOne(mail: QueuedMail, transport: Transport | null): Promise<void> {
    const { ledger, now } = this.parts
    const { queue } = ledger
    if (!(await queue.take(mail.id))) return
    try {
      const composed = await compose(mail, { ...this.parts.compose, keys: await ledger.linkKeys() })
      if (transport === null) {
        await this.parts.keepForRehearsal(mail, composed)
        await queue.settle(mail.id, { state: 'done', said: 'Kept for the rehearsal; not sent.' })
      } else {
        const said = await transport.send(composed)
        const judged = this.refusals.takes(mail)
        if (mail.space === '') (await this.sentCounts()).sent()
        await queue.settle(mail.id, { state: 'done', said })
        for (const id of judged) await queue.tryAgain(id)
        const { halted, refusing } = await this.settings()
        if (halted !== null) await this.goOn()
        const domain = domainOf(mail.compared)
        if (refusing.some((one) => one.domain === domain)) await this.domainTakes(domain)
      }
    } catch (error) {
      // A fault of one mail stops no other.
      if (error instanceof NotNeeded) return queue.settle(mail.id, { state: 'dropped', said: error.message })
      const refusal = refusalOf(error)
      const { said } = refusal
      const { consequence, everybody, overturned, again, domain } = this.refusals.refused(mail, refusal)
      const pause = pauseAfter(mail.attempts)
      if (consequence === 'mark') return queue.settle(mail.id, { state: 'refused', said, isTarget: true })
      await queue.settle(
        mail.id,
        consequence === 'later' && pause !== null
          ? { state: 'later', said, due: now() + pause }
          : { state: 'refused', said, isTarget: false },
      )
      if (everybody !== null) return this.halt(said, everybody, overturned)
      if (overturned.length > 0) await ledger.putBackBounced(overturned)
      for (const id of again) await queue.tryAgain(id, now() + (pause ?? PROBE_EVERY_MS))
      if (domain !== null) await this.hold(domain)
    }
  }

  /** Halts sending: the server refuses every recipient. Requeues the refused mails; a probe an hour tries again. */
  private async halt(
    said: string,
    refused: readonly QueuedMail['id'][],
    overturned: readonly MemberId[],
  ): Promise<void> {
    const { ledger } = this.parts
    const { queue } = ledger
    if (overturned.length > 0) await ledger.putBackBounced(overturned)
    for (const id of refused) await queue.tryAgain(id)
    await this.probes()
    await this.kept.change(({ halted }) =>
      // Its owner may have it go on while the last of those refused are being put back.
      this.refusals.said === null ? {} : { halted: halted ?? { at: this.parts.now(), said } },
    )
  }

  /** Holds what goes to a domain that takes none of us: the others go on. One mail an hour asks whether it still does. */
  private async hold({ name, said }: { name: string; said: string }): Promise<void> {
    const at = this.parts.now()
    await this.kept.change(({ refusing }) => {
      const before = refusing.find(({ domain }) => domain === name)
      const one = { domain: name, at: before?.at ?? at, said, nextAt: at + PROBE_EVERY_MS }
      return { refusing: [...refusing.filter(({ domain }) => domain !== name), one].slice(-MOST_REFUSING) }
    })
  }

  /** Domains that take none of us, and how many mails wait for each. */
  async refusing(): Promise<MailState['refusing']> {
    const { refusing } = await this.settings()
    if (refusing.length === 0) return []
    const waiting = await this.waiting()
    return refusing
      .map((one) => ({
        ...one,
        waiting: waiting.filter(({ compared }) => domainOf(compared) === one.domain).length,
      }))
      .filter((one) => one.waiting > 0)
  }

  private async waiting(): Promise<QueuedMail[]> {
    return (await this.parts.ledger.queue.inState(MAIL, 'open', MOST_LOOKED_AT)).map(mailOf)
  }

  private async domainTakes(name: string): Promise<void> {
    this.refusals.domainTakes(name)
    await this.kept.change(({ refusing }) => ({ refusing: refusing.filter(({ domain }) => domain !== name) }))
    for (const { id, compared } of await this.waiting())
      if (domainOf(compared) === name) await this.parts.ledger.queue.tryAgain(id)
  }

  /** Puts off what goes to domains that take none of us, but for one mail to each whose time to be asked has come. */
  private async withoutRefusing(due: readonly QueuedMail[], { refusing }: MailServerSettings): Promise<QueuedMail[]> {
    if (refusing.length === 0) return [...due]
    const { queue } = this.parts.ledger
    const now = this.parts.now()
    const asked = new Map(refusing.map(({ domain, nextAt }) => [domain, nextAt]))
    const going: QueuedMail[] = []
    for (const mail of due) {
      const domain = domainOf(mail.compared)
      const nextAt = asked.get(domain)
      // Of a clock that was put back, no more than the whole.
      const waitMs = nextAt === undefined ? 0 : Math.min(PROBE_EVERY_MS, nextAt - now)
      if (waitMs <= 0) {
        going.push(mail)
        if (nextAt !== undefined) asked.set(domain, now + PROBE_EVERY_MS)
      } else if (now - mail.queued > LONGEST_HELD_MS) {
        const said = refusing.find((one) => one.domain === domain)!.said
        await queue.settle(mail.id, { state: 'refused', said, isTarget: false })
      } else await queue.putOff(mail.id, now + waitMs)
    }
    const isAsked = refusing.filter(({ domain, nextAt }) => asked.get(domain) !== nextAt)
    if (isAsked.length > 0)
      await this.kept.change((before) => ({
        refusing: before.refusing.map((one) => ({ ...one, nextAt: asked.get(one.domain) ?? one.nextAt })),
      }))
    return going
  }

  /** Ends halting: by the owner, or because the server took a mail. */
  async goOn(): Promise<void> {
    this.refusals.forget()
    const { refusing } = await this.settings()
    for (const { domain } of refusing) await this.domainTakes(domain)
    await this.kept.change(() => ({ halted: null }))
    await this.parts.ledger.queue.hurry(MAIL)
    this.wake()
  }
}
