import { RefusedNetworks } from '../limits'
import { version } from '../version'
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client'
import type { Ledger } from '../ledger'

let ofProcess: Registry | null = null
/** A process is watched once, however many receivers it has had. */
function processFigures(): Registry {
  if (ofProcess === null) {
    ofProcess = new Registry()
    collectDefaultMetrics({ register: ofProcess })
  }
  return ofProcess
}

/** What became of a request to sign up. */
export type SignUpOutcome =
  | 'joined'
  | 'confirm-first'
  | 'already-on-list'
  | 'already-waiting'
  | 'bot'
  | 'message-sent'
  | 'invalid'
  | 'limited'
  | 'closed'
  | 'not-stored'

/** In seconds: from an answer at once to one that a visitor gives up on. */
const SECONDS = [0.001, 0.0025, 0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10]
const SHARED = [1, 2, 4, 8, 16, 32, 64, 128, 256]

/**
 * Figures of this receiver in the Prometheus text format. They tell sums and times, and nothing of anybody. What concerns
 * the store that receivers share (jobs, the newest entry) is told alike by each of them.
 */
export class Metrics {
  /** For the owner, who is told when many are refused. */
  readonly refusedNetworks = new RefusedNetworks(Date.now)
  private readonly registry = new Registry()
  private readonly build = new Gauge({
    name: 'askbox_build_info',
    help: 'Always 1, with the version of this receiver.',
    labelNames: ['version'],
    registers: [this.registry],
  })
  private readonly signUps = new Counter({
    name: 'askbox_sign_ups_total',
    help: 'Requests to sign up, by what became of them.',
    labelNames: ['outcome'],
    registers: [this.registry],
  })
  private readonly signUpSeconds = new Histogram({
    name: 'askbox_sign_up_seconds',
    help: 'Time from a request to sign up to its answer.',
    buckets: SECONDS,
    registers: [this.registry],
  })
  private readonly sharing = new Histogram({
    name: 'askbox_writes_per_commit',
    help: 'Pieces of work that shared a commit; its count is that of commits.',
    buckets: SHARED,
    registers: [this.registry],
  })
  private readonly pulls = new Counter({
    name: 'askbox_pulls_total',
    help: 'Pages of the journal and of objects that workshops pulled.',
    labelNames: ['what'],
    registers: [this.registry],
  })
  private readonly streams = new Gauge({
    name: 'askbox_streams',
    help: 'Workshops that listen for news now.',
    registers: [this.registry],
  })

  /** @param isProcess whether memory, time and handles of the process are told too */
  constructor(private readonly isProcess = false) {
    this.build.set({ version }, 1)
  }

  get contentType(): string {
    return this.registry.contentType
  }

  /** @param ms from the request to its answer */
  signUp(outcome: SignUpOutcome, ms: number): void {
    this.signUps.inc({ outcome })
    this.signUpSeconds.observe(ms / 1000)
  }

  commit(writes: number): void {
    this.sharing.observe(writes)
  }

  pulled(what: 'entries' | 'objects'): void {
    this.pulls.inc({ what })
  }

  listening(change: 1 | -1): void {
    this.streams.inc(change)
  }

  /** Adds what is asked of the store when somebody looks. */
  over(ledger: Ledger, lanes: () => readonly string[]): void {
    const registers = [this.registry]
    const jobs = new Gauge({
      name: 'askbox_jobs',
      help: 'Jobs of a lane that are open (of these, held by a receiver now), or were refused.',
      labelNames: ['lane', 'state'],
      registers,
    })
    const oldest = new Gauge({
      name: 'askbox_oldest_job_seconds',
      help: 'How long the job of a lane is overdue that waits longest; 0 where none does.',
      labelNames: ['lane'],
      registers,
    })
    const entries = new Gauge({ name: 'askbox_journal_entries', help: 'Number of the newest entry.', registers })
    const isUp = new Gauge({
      name: 'askbox_store_up',
      help: 'Whether sign-ups can be stored: 1 or 0.',
      registers,
    })
    const connections = new Gauge({
      name: 'askbox_store_connections',
      help: 'Connections to the database server, by state; waiting are those who wait for one.',
      labelNames: ['state'],
      registers,
    })
    this.look = async () => {
      isUp.set(
        await ledger.checkHealth().then(
          () => 1,
          () => 0,
        ),
      )
      for (const [state, count] of Object.entries(ledger.connections() ?? {})) connections.set({ state }, count)
      // A store that does not answer has no figures of its own.
      await Promise.all([
        ledger.latest().then((n) => entries.set(n)),
        ...lanes().map(async (lane) => {
          const counts = await ledger.queue.counts(lane)
          jobs.set({ lane, state: 'open' }, counts.open)
          jobs.set({ lane, state: 'held' }, counts.held)
          jobs.set({ lane, state: 'refused' }, counts.refused)
          oldest.set({ lane }, await ledger.queue.overdueSeconds(lane))
        }),
      ]).catch(() => {})
    }
  }

  private look: () => Promise<void> = async () => {}

  async text(): Promise<string> {
    await this.look()
    return (this.isProcess ? Registry.merge([this.registry, processFigures()]) : this.registry).metrics()
  }
}
