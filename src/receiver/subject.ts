import type { OpenAPIHono } from '@hono/zod-openapi'
import type { Context, Hono } from 'hono'
import type { Opening } from '#core/api'
import type { BrowserPort } from './browser'
import type { Care } from './care'
import type { Clock } from './clock'
import type { HandOverApi } from './hand-over'
import type { Ledger } from './ledger'
import type { Causes, Limiter } from './limits'
import type { MailParts } from './mail'
import type { Puzzles } from './puzzle'
import type { Rehearsals } from './rehearsals'
import type { Counting } from './results'
import type { OwnerKeys } from './secrets'
import type { Metrics } from './metrics'
import type { Mover } from './moving'
import type { Settings } from './settings'
import type { SubjectTables } from './store'
import type { RecurringJob } from './work'

/** What subjects have of the receiver that runs. */
export interface ReceiverParts {
  ledger: Ledger
  settings: Settings
  clock: Clock
  keys: OwnerKeys
  mail: MailParts
  handOver: HandOverApi
  rehearsals: Rehearsals
  /** For rehearsals; null for none. */
  browsers: BrowserPort | null
  care: Care
  metrics: Metrics
  /** Moves the store; null where it stays. */
  mover: Mover | null
  /** Aborted when this receiver stops: what would go on for long ends. */
  stopping: AbortSignal
  /** Path of a program that was built with the receiver, such as `page-thread.js`; undefined where its sources run. */
  program(name: string): string | undefined
}

/** What the paths for visitors have besides. */
export interface VisitorParts extends ReceiverParts {
  /** For sign-ups. */
  limiter: Limiter
  /** Tells floods of sign-ups from visitors. */
  causes: Causes
  puzzles: Puzzles
  counting: Counting
  /** Folder with the visitors' script and font; null to serve none. */
  files: string | null
  /** Told of every sign-up; see `proxyNotice`. */
  noticeProxy(c: Context): void
}

/** An address that lets somebody or something in; `by` is the id of a key. */
export type FoundOpening = Opening & { of: 'services' | 'pages' }

/** A background worker; the returned function stops it and waits for the work in hand. */
export interface Worker {
  start(): () => Promise<void>
}

/** One thing that the receiver does, with all that belongs to it: see subjects.ts. */
export interface Subject {
  name: string
  tables: readonly SubjectTables<unknown>[]
  workers?(parts: ReceiverParts): readonly Worker[]
  /** Lanes of the queue, for who measures them. */
  lanes?(parts: Pick<ReceiverParts, 'ledger'>): readonly string[]
  /** Recurring jobs. */
  jobs?(parts: ReceiverParts): readonly RecurringJob[]
  /** The owner's side: paths below `/api` that need a key. */
  routes?(routes: OpenAPIHono, parts: ReceiverParts, all: readonly Subject[]): void
  /** Addresses that let somebody or something in without a key. */
  openings?(parts: ReceiverParts): Promise<readonly FoundOpening[]>
  /** Routes that take bodies as bytes, larger than other bodies may be. */
  uploads?(routes: OpenAPIHono, parts: ReceiverParts): void
  /** Paths that anybody may ask: what visitors see, send and open from their mail. */
  visitors?(routes: Hono, parts: VisitorParts): void
}
