import type { HandedOn, OnItsWay, ReceivedMail, SeenMember, Shown, ViewerId } from '#core/proof'
import type { Submission } from '#core/submission'
import type { Fill } from '#core/usable'

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
  /** Hands a made-up person on as their list is handed on, looks there, and takes them off again. Missing where nothing can be handed on. */
  handOn?(email: string): Promise<HandedOn[]>
  /** Ends a made-up person's waiting, as its days would. */
  expire(email: string): Promise<void>
  pause(ms: number): Promise<void>
  /** How long a mail is waited for where that is longer than usual, in milliseconds. */
  mailPatienceMs?: number
  /** The time of day, in milliseconds since 1970: of this computer, which may be another than the receiver's. */
  today(): number
  /** A real browser, where there is one. */
  browser: Browser | null
}

/** What a browser did, or why it could not. */
export type Browsed<T> = ({ isTried: true } & T) | { isTried: false; reason: string }

/** The owner's browser, which shows pages in frames and cannot look into those of other origins. */
export interface FramingBrowser {
  kind: 'frames'
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

/** Of no country, wherever such a browser stands. */
export const VISITS_ZONE = 'Etc/UTC'

/** A browser that opens pages as visitors do, and uses them as a hand does. */
export interface VisitingBrowser {
  kind: 'visits'
  zone: string
  /** Whether Firefox stands there as well. */
  hasFirefox?: boolean
  visit(wish: VisitWish): Promise<Browsed<Visited>>
  /** Opens a mail, and presses what is in it and on the pages that it leads to. */
  read(wish: MailWish): Promise<Browsed<MailRead>>
}

export type Browser = FramingBrowser | VisitingBrowser

/** One visit of a page. */
export interface VisitWish {
  address: string
  spot: string
  /** Where the form sends to. */
  action: string
  /** Of its landing page: a link to it is followed where the form stands behind it. */
  pages: readonly string[]
  viewer: ViewerId
  /** What the form says itself: by such words one finds what opens it. */
  words: readonly string[]
  /** Whether the form comes by rules of its own: over the page, or put into it. */
  comesByItself: boolean
  /** Null to look only whether the form is there. */
  fills: readonly Fill[] | null
  /** The trap that nobody may see. */
  trap: string
  /** 0 to fill in and send nothing. */
  presses: 0 | 1 | 2
  /** Whether the visitor takes her time, sends nothing, and comes back with what the first visit left. */
  isSlow?: boolean | undefined
  /** Whether its parts were looked at by an earlier visit: their own pixels need not be drawn again. */
  wasLookedAt?: boolean | undefined
  /** The version that is to be shown where wordings are tried. */
  wording?: number | undefined
  /** Whether the form is looked for at all widths of a window. */
  sweeps?: boolean | undefined
  /** Whether the gift is taken that the answer hands over. */
  takesGift?: boolean | undefined
}

/** What a visitor's hand met. */
export interface Visited {
  isThere: boolean
  /** CSS pixels. */
  width: number
  sticksOut: boolean
  obstacle: Obstacle | null
  /** A page that came in answer. */
  answer: VisitedPage | null
  /** What was said in the form's place, or beside its fields. */
  inPlace: Pick<Shown, 'heading' | 'message' | 'errors'> | null
  /** What had to be done before: opened, closed, led on. */
  remarks: string[]
  /** What the browser complained of: policies, errors of scripts. */
  complaints: string[]
  /** The page as its scripts had made it, where the form was not found. */
  html: string | null
  status: number
  /** Other spots whose forms the page asked this receiver for, with its answers, where the form was not found. */
  asked?: { spot: string; status: number }[]
  /** Where the page led on to by itself, where the form was not found. */
  ledTo?: string
  /** A small JPEG in base64 of the window where the form was looked at; null where none could be taken. */
  picture: string | null
  /** Where in it the form's first question or its button stands: shares of its width and height. */
  field: { left: number; top: number; width: number; height: number } | null
  /** Widths of the window, from and to, at which the form is out of sight; missing where they were not tried. */
  hiddenAt?: [from: number, to: number][]
  /** What came of taking the gift on the answer; null where nothing there hands it over. */
  gift?: PressSeen | null
  /** Whether this is what was found on coming back. */
  isReturn?: boolean
  /** Whether the page looked whether a program drives the browser (`navigator.webdriver`). */
  asksForPrograms?: boolean
}

export interface VisitedPage {
  status: number
  address: string
  html: string
  /** Where it went on to by itself, a moment later. */
  ledTo: string | null
  /** Whether the window stayed of one colour, on a page of the site's own. */
  isBlank?: boolean
  /** Whether it is a step of ours that was to lead on, and that the browser did not let go on. */
  isHeldBack?: boolean
}

/** A mail that somebody made up opens, and what they press from there on. */
export interface MailWish {
  /** Its HTML as it came; empty for a mail that has none, whose plain part is read. */
  html: string
  text: string
  /** Where the link in it leads that is pressed first. */
  link: string
  /** What is pressed then, one after the other: the button of a page of ours, or what hands over the gift. */
  presses: readonly ('button' | 'gift')[]
  /** Where the receiver is reached by visitors. */
  receiver: string
}

/** What came of one press. */
export interface PressSeen {
  /** The page that came, where one did. */
  page: VisitedPage | null
  /** The file that the browser kept, where one came. */
  file: { name: string; size: number; sha256: string } | null
  obstacle: Obstacle | null
  /** What the browser complained of meanwhile. */
  complaints: string[]
}

export interface MailRead {
  /** The link's first; fewer than were wished where one could not be pressed, or nothing came of it. */
  presses: PressSeen[]
  picture: Visited['picture']
  field: Visited['field']
}

/** What keeps a hand from a form, and from what of it. */
export interface Obstacle {
  code:
    | 'hidden'
    | 'faint'
    | 'page-left'
    | 'covered'
    | 'trap-visible'
    | 'field-missing'
    | 'field-locked'
    | 'no-button'
    | 'button-disabled'
    | 'submit-stopped'
    | 'foreign-required'
    | 'sent-elsewhere'
    | 'send-blocked'
    | 'answer-unseen'
    | 'answer-missing'
    | 'trouble'
  /** For the owner: which control, what lies over it, what was said. */
  detail: string
  markup: string
}
