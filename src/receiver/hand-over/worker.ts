import { abilitiesOf, type Connection, type HandOver, USUAL_PACE, type WantedState, wantedOf } from '#core/connection'
import type { ConnectionId, HandOverId, MemberId } from '#core/ids'
import { keepableText } from '#core/text'
import { complain } from '../log'
import { type HandBody, handOverWorker, partsOf, sealedFor } from './handing'
import { type Job, Lane, LONGEST_REST_MS } from '../work'
import type { Sealing } from '../secrets'
import type { Handed } from './tables'
import { Breaker, type BreakerState, closedBreaker } from './breaker'
import { consequenceOf, digestOf, type HandedOver } from './hand'
import type { Keys } from './keys'
import { type WayPiece, wayOf, type WayParts } from './ways'

const MINUTE_MS = 60_000
const HOUR_MS = 3_600_000
const DAY_MS = 86_400_000
/** What may pass is tried again for three days, soon and then less and less often. */
const PAUSES_MS = [5_000, MINUTE_MS, 5 * MINUTE_MS, 15 * MINUTE_MS, HOUR_MS, 4 * HOUR_MS, 12 * HOUR_MS]
const GIVEN_UP_MS = 3 * DAY_MS
const DUE_AT_ONCE = 100
/** Within what services are given to stop. */
const STOP_MS = 9_000
const NEWS_PAUSE_MS = 50
/** Interval of probes while a connection is halted. */
const PROBE_EVERY_MS = 5 * MINUTE_MS

export interface HandOverParts extends WayParts {
  keys: Keys
  sealing: Sealing
}

/** Hands people over, each connection by itself: none waits for another, and sign-ups for none. */
export class HandOverWorkers {
  private readonly lanes = new Map<ConnectionId, ConnectionLane>()
  private hasEnded = false

  constructor(private readonly parts: HandOverParts) {}

  start(): () => Promise<void> {
    const stopListening = this.parts.ledger.onNews(() => this.wake(NEWS_PAUSE_MS))
    this.wake()
    return async () => {
      stopListening()
      this.hasEnded = true
      await Promise.all([...this.lanes.values()].map((lane) => lane.end()))
    }
  }

  wake(pause = 0): void {
    if (this.hasEnded) return
    const connections = this.parts.ledger.published().connections()
    for (const { id } of connections) {
      if (!this.lanes.has(id)) this.lanes.set(id, new ConnectionLane(id, this.parts))
      this.lanes.get(id)!.wake(pause)
    }
    if (this.lanes.size === connections.length) return
    for (const [id, lane] of this.lanes) {
      if (connections.some((one) => one.id === id)) continue
      this.lanes.delete(id)
      void lane.end().catch(complain)
    }
  }

  /** A key was changed, or something is to be tried again. */
  async goOn(id: ConnectionId): Promise<void> {
    // First: an answer that comes meanwhile is to what was sent before.
    this.lanes.get(id)?.goOn()
    await this.parts.keys.goOn(id)
    await this.parts.ledger.queue.hurry(handOverWorker(id))
    this.wake()
  }

  /** Since when somebody waits to go by a connection and nobody has gone, whatever the reason; null where nobody waits. */
  stillSince(id: ConnectionId): number | null {
    return this.lanes.get(id)?.stillSince ?? null
  }
}

/** The lane of one connection. */
class ConnectionLane {
  private readonly lane: Lane
  private readonly breaker: Breaker
  /** Done when what the breaker was told of is in the store. */
  private saving: Promise<void> = Promise.resolve()
  /** Whether one goes to ask for all. */
  private isProbe = false
  /** Hand-overs that were paused when their turn came. */
  private readonly paused = new Set<HandOverId>()

  constructor(
    private readonly id: ConnectionId,
    private readonly parts: HandOverParts,
  ) {
    const keep = (breaker: BreakerState) => {
      this.saving = this.saving.then(() => parts.keys.keepState(id, { breaker })).catch(complain)
    }
    this.breaker = new Breaker(USUAL_PACE, closedBreaker, keep, {
      now: parts.now,
      steady: () => performance.now(),
    })
    this.lane = new Lane(parts.ledger.queue, parts.now, {
      worker: handOverWorker(id),
      ready: () => this.ready(),
      work: (due) => this.handAll(due),
      idle: (next) => this.idle(next),
      stopMs: STOP_MS,
    })
  }

  private idle(next: number | null): void {
    this.stillSince = next === null ? null : (this.stillSince ?? this.parts.now())
    // Who waited may have been taken away, or gone by another receiver that ended before it said so.
    if (next === null) void this.keepStillSince(null).catch(complain)
  }

  /** How often its owner had it go on: what was sent before that stops nothing any more. */
  private goneOn = 0

  /** Since when somebody waits and nobody has moved, in milliseconds since 1970; null where nobody waits. */
  stillSince: number | null = null
  /** The same as far as it is in the store. */
  private keptStillSince: number | null = null

  wake(pause: number): void {
    this.lane.wake(pause)
  }

  end(): Promise<void> {
    return this.lane.end()
  }

  goOn(): void {
    this.breaker.state = closedBreaker
    this.goneOn += 1
  }

  private get connection(): Connection | null {
    return this.parts.ledger.published().connection(this.id)
  }

  /** None while the service is left alone, one that asks whether it is well again, or many. */
  private async ready(): Promise<{ most: number } | { restMs: number }> {
    const { keys, now } = this.parts
    const { connection } = this
    if (connection === null) return { restMs: LONGEST_REST_MS }
    await this.resume()
    const { breaker } = this
    breaker.pace = wayOf(connection, this.parts).pace ?? USUAL_PACE
    await this.saving
    const { halted, breaker: kept = closedBreaker, stillSince } = await keys.state(this.id)
    breaker.state = kept
    this.keptStillSince = stillSince ?? null
    this.stillSince ??= this.keptStillSince
    const waitMs = halted === undefined ? breaker.waitMs() : breaker.probeMs(PROBE_EVERY_MS)
    if (waitMs > 0) {
      this.stillSince ??= now()
      await this.keepStillSince(this.stillSince)
      return { restMs: waitMs }
    }
    this.isProbe = halted !== undefined || breaker.isFailing
    return { most: this.isProbe ? 1 : DUE_AT_ONCE }
  }

  /** Works off due jobs concurrently, in the service's pace; milliseconds until more may go. */
  private async handAll(due: readonly Job[]): Promise<number> {
    const { queue } = this.parts.ledger
    const { connection, breaker } = this
    if (connection === null) return 0
    this.stillSince ??= this.parts.now()
    if (this.isProbe) breaker.probed()
    const way = wayOf(connection, this.parts)
    // As one: sign-ups wait for each change that is written.
    const jobs = await queue.takeAll(due)
    try {
      const one = async () => {
        while (jobs.length > 0) {
          if (this.lane.hasEnded || breaker.waitMs() > 0) return
          const together = jobs.splice(0, way.together(jobs))
          await breaker.turn()
          await this.handTogether(connection, breaker, together).catch(complain)
        }
      }
      await Promise.all(Array.from({ length: breaker.pace.atOnce }, one))
    } finally {
      if (jobs.length > 0) await queue.letGo(jobs)
    }
    return breaker.waitMs()
  }

  /** Makes jobs of resumed hand-overs due at once. Called between rounds, when no job is being postponed. */
  private async resume(): Promise<void> {
    const { ledger } = this.parts
    const resumed = [...this.paused].filter((id) => ledger.published().handOver(id)?.isPaused !== true)
    if (resumed.length === 0) return
    for (const id of resumed) this.paused.delete(id)
    await ledger.queue.hurry(handOverWorker(this.id))
  }

  /** Sends the jobs of one request, and settles each by its answer. */
  private async handTogether(connection: Connection, breaker: Breaker, jobs: readonly Job[]): Promise<void> {
    const pieces = (await Promise.all(jobs.map((job) => this.pieceOf(connection, job)))).filter((one) => one !== null)
    if (pieces.length === 0) return
    const { goneOn } = this
    const handed = await wayOf(connection, this.parts).hand(pieces, () => breaker.turn())
    await this.followUp(connection, breaker, handed, goneOn)
    await Promise.all(pieces.map((piece, at) => this.settle(piece, handed.each?.[at] ?? handed)))
  }

  /** What a job sends; null where it has nothing to send and is settled already. */
  private async pieceOf(connection: Connection, job: Job): Promise<HandedPiece | null> {
    const { ledger } = this.parts
    const body = job.body as HandBody
    const handOver = ledger.published().handOver(body.handOver)
    if (handOver === null) return this.finish(job, null)
    // Jobs of a paused hand-over are postponed, and let others of this connection pass.
    if (handOver.isPaused) {
      this.paused.add(handOver.id)
      const said = mayHaveArrived(job) ? job.said || NOT_KNOWN : ''
      await ledger.queue.settle(job.id, { state: 'later', said, due: this.parts.now() + PROBE_EVERY_MS })
      return null
    }
    if (!('member' in body)) {
      await ledger.queue.spread(job, (transaction) => partsOf(transaction, job, handOver, this.parts.now()))
      return null
    }
    const member = await ledger.member(body.member)
    const email = member?.email.typed ?? ('sealed' in body ? this.addressIn(body.sealed, handOver) : null)
    // Dropping a member queues a job of its own.
    if (email === null || 'sealed' in body !== (member === null)) return this.finish(job, null)
    const wanted: WantedState = member === null ? { state: 'off', email } : wantedOf(member, handOver)
    const digest = digestOf(wanted)
    const before = member === null ? null : await ledger.handOvers.handed(handOver.id, member.id)
    const isTold = abilitiesOf(connection.way).isToldOfAll
    const isForced = 'isForced' in body && body.isForced === true
    const isMend = 'isMend' in body && body.isMend === true
    if (!isTold && wanted.state === 'not-yet') return this.finish(job, null)
    if (!isTold && member !== null && !isForced) {
      const isThere = before?.state === 'there' || before?.state === 'to-confirm'
      // Never there, or nothing changed.
      if (wanted.state === 'off' && before === null && !mayHaveArrived(job)) return this.finish(job, null)
      if (
        before !== null &&
        before.digest === digest &&
        isThere === (wanted.state === 'there') &&
        before.state !== 'refused'
      )
        return this.finish(job, before)
    }
    const sent = sentWith(before?.sent, wanted, isMend ? handOver.fields.map(({ key }) => key) : [])
    const piece = { job, handOver, about: body.member, event: body.event, member, email, wanted, digest, sent }
    if (wayOf(connection, this.parts).wishes(body.event)) return piece
    await this.settle(piece, { means: 'done', said: 'Not told of.', retryAt: null })
    return null
  }

  private addressIn(sealed: string, { id }: HandOver): string | null {
    return this.parts.sealing.open(sealed, sealedFor(id))
  }

  /** For receivers that share the store: kept once it is long, so that what goes on as it should costs no commit. */
  private async keepStillSince(since: number | null): Promise<void> {
    if (since !== null && this.parts.now() - since < MINUTE_MS) return
    if (since === this.keptStillSince) return
    this.keptStillSince = since
    await this.parts.keys.keepState(this.id, { stillSince: since ?? undefined })
  }

  /** Settles a job: somebody moved. */
  private async finish(job: Job, handed: Handed | null): Promise<null> {
    this.stillSince = null
    await this.keepStillSince(null)
    await this.parts.ledger.handOvers.finish(job, handed)
    return null
  }

  /** What one request's answer means for the connection. */
  private async followUp(
    { id }: Connection,
    breaker: Breaker,
    { means, said, retryAt }: HandedOver,
    goneOn: number,
  ): Promise<void> {
    const { ledger, keys, now } = this.parts
    switch (consequenceOf(means)) {
      case 'done':
        // What waited for its next try meanwhile need not wait on.
        if (await this.wentThrough(id, breaker)) await ledger.queue.hurry(handOverWorker(id))
        return
      case 'refused':
        breaker.succeeded()
        return
      case 'halt':
        if (goneOn !== this.goneOn) return
        breaker.probed()
        await keys.halt(id, { at: now(), means, said })
        return
      case 'later':
        breaker.failed(retryAt === null ? null : retryAt - now())
    }
  }

  /** A request succeeded: halting and postponing are over. True where the service had failed before. */
  private async wentThrough(id: ConnectionId, breaker: Breaker): Promise<boolean> {
    const { keys } = this.parts
    const { halted, putOff } = await keys.state(id)
    const hadFailed = breaker.succeeded()
    if (halted !== undefined || putOff !== undefined) await keys.goOn(id)
    return hadFailed
  }

  /** Settles one person's job by the answer. */
  private async settle(
    { job, handOver, about, wanted, digest, sent }: HandedPiece,
    { means, said, retryAt }: HandedOver,
  ): Promise<void> {
    const { now } = this.parts
    const { queue } = this.parts.ledger
    const handed: Handed = {
      handOver: handOver.id,
      member: about,
      state: wanted.state !== 'there' ? 'off' : means === 'to-confirm' ? 'to-confirm' : 'there',
      at: now(),
      digest,
      said: keepableText(said, 300),
      ...(wanted.state === 'there' && { sent }),
    }
    switch (consequenceOf(means)) {
      case 'done':
        return void (await this.finish(job, handed))
      case 'refused':
        return void (await this.finish(job, { ...handed, state: 'refused' }))
      case 'halt':
        return queue.settle(job.id, { state: 'later', said, due: now() })
      case 'later': {
        if (now() - job.queued > GIVEN_UP_MS) return void (await this.finish(job, { ...handed, state: 'refused' }))
        const pause = PAUSES_MS[job.attempts] ?? PAUSES_MS.at(-1)!
        const due = Math.max(now() + pause, retryAt ?? 0)
        await this.parts.keys.keepState(this.id, { putOff: { at: now(), said: said || NOT_KNOWN, due } })
        return queue.settle(job.id, { state: 'later', said: said || NOT_KNOWN, due })
      }
    }
  }
}

/** One person's part of a request, and the record kept of it. */
interface HandedPiece extends WayPiece {
  about: MemberId
  digest: string
  sent: NonNullable<Handed['sent']>
}

/** All fields and tags ever sent of somebody, these included. */
function sentWith(
  before: Handed['sent'],
  wanted: WantedState,
  matched: readonly string[],
): NonNullable<Handed['sent']> {
  const now = wanted.state === 'there' ? wanted : { values: {}, tags: [] }
  return {
    keys: [...new Set([...(before?.keys ?? []), ...matched, ...Object.keys(now.values)])],
    tags: [...new Set([...(before?.tags ?? []), ...(now.tags ?? [])])],
  }
}

const NOT_KNOWN = 'It is not known whether it arrived.'
/** Whether a try may have arrived: by a process that ended, or without a conclusive answer. */
const mayHaveArrived = ({ holder, said }: Job) => holder !== '' || said !== ''
