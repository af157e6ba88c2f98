import type { OnItsWay, ReceivedMail, SeenMember, Shown } from '#core/proof'
import type { Submission } from '#core/submission'
import type { Fill } from './fill'

/** A page as a visitor's browser gets it. */
export interface FetchedPage {
  status: number
  /** Where it was found, after redirects. */
  address: string
  html: string
  /** By what its bytes were read. */
  encoding: string
  /** Of its `Content-Security-Policy` headers. */
  policies: readonly string[]
  /** Its `X-Frame-Options` header; empty for none. */
  frameOptions: string
  /** How long a cache has kept it, in seconds (RFC 9111, section 5.1); null when it does not say. */
  age: number | null
}

/** What somebody who sends a form gets, redirects followed. */
export interface AnsweredPage extends FetchedPage {
  /** Where the receiver sent on to; null when it answered itself. */
  location: string | null
}

/** No answer came; the message says why, in words for the owner. */
export class NoAnswer extends Error {}

/** How the receiver is to hold the spot for this one request. */
export type As = 'paused' | 'retired'

/** What a rehearsal needs of the world. */
export interface Ports {
  /** Milliseconds, for how long things take. */
  now(): number
  /** Marks the made-up people of this rehearsal. */
  code: string
  /** Never the same twice: small letters and digits. */
  unique(): string
  /** @throws NoAnswer */
  fetch(address: string, as?: As): Promise<FetchedPage>
  /** @throws NoAnswer */
  send(submission: Pick<Submission, 'address' | 'contentType' | 'body'>, as?: As): Promise<AnsweredPage>
  member(email: string): Promise<SeenMember>
  /** Mail to a made-up person, oldest first, and what of it is still on its way; see `core/proof`. */
  mails(email: string): Promise<{ received: ReceivedMail[]; queued: OnItsWay[] }>
  /** Fetches what a link of ours hands over, as far as it tells what was handed over. */
  download(address: string): Promise<{ status: number; address: string; size: number; sha256: string }>
  /** Ends a made-up person's waiting, as its days would. */
  expire(email: string): Promise<void>
  pause(ms: number): Promise<void>
  /** The time of day, in milliseconds since 1970: of this computer, which may be another than the receiver's. */
  today(): number
  /** A real browser, where there is one. */
  browser: Browser | null
}

/** What a browser did, or why it could not. */
export type Browsed<T> = ({ isTried: true } & T) | { isTried: false; reason: string }

export interface Browser {
  /** Where the page that holds the frames is from: some pages may be framed by some origins. */
  origin: string
  /** Its time zone, which the visitors' script tells. */
  zone: string
  /** The page itself, with its scripts, in a frame; the visitors' script fills in and sends what it made. */
  withScripts(wish: {
    address: string
    spot: string
    width: number
    /** Null to look only whether the form is there. */
    fills: readonly Fill[] | null
    presses: 1 | 2
  }): Promise<Browsed<{ isThere: boolean; width: number; sticksOut: boolean; shown: Shown | null }>>
  /** A copy of a page without scripts, where the form with this action is filled in and sent. */
  withoutScripts(wish: {
    address: string
    action: string
    width: number
    fills: readonly Fill[]
  }): Promise<Browsed<{ isThere: boolean; isSeen: boolean; sticksOut: boolean; buttonHeight: number }>>
}
