import type { JournalId, SpotId } from '#core/ids'
import type { Command, Entry } from '#core/journal'
import type { Refusal } from '#core/list'
import type { Delivery, MailKind, MailSettings, MessageKind } from '#core/mail'
import type { MailboxRule } from '#core/mailbox'
import type { Picture } from '#core/picture'
import type { OnItsWay, ReceivedMail, SeenMember } from '#core/proof'
import type { AnsweredPage, As, Browsed, Visited, VisitWish } from '#core/rehearsal'
import type { Body, ChangeRefusal, Kept, Kind } from '#core/sync'

/** The receiver answered, and the answer was no. */
export class ReceiverProblem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
  ) {
    super(message)
  }
}

/** No answer came at all. */
export class Unreachable extends Error {}

export interface Pairing {
  receiver: string
  key: string
}

/** A mail server as the receiver tells of it: its password stays there. */
export interface MailServer {
  host: string
  port: number
  security: 'tls' | 'starttls' | 'none'
  user: string
  /** Null to keep the one that is there. */
  password: string | null
}

/** A leap of the clock of the receiver's computer that nobody has confirmed yet; in milliseconds. */
export interface ClockLeap {
  /** Negative for back. */
  by: number
  isSinceStart: boolean
  trustedInMs: number
}

/** Whether a browser is installed beside the receiver, for rehearsals. */
export type BrowserState =
  | { state: 'ready'; version: string; path: string }
  | { state: 'none' }
  | { state: 'broken'; path: string; reason: string }

interface Description {
  journal: JournalId
  latest: number
  latestChange: number
  publicUrl: string
  leap: ClockLeap | null
}

export interface MailState {
  server: (Omit<MailServer, 'password'> & { hasPassword: boolean }) | null
  from: 'environment' | 'screen' | null
  isStandIn: boolean
  hasMailbox: boolean
  pace: { minute: number; hour: number; day: number }
  isStopped: boolean
  /** Sending that stopped by itself, since the server refused several people alike. */
  halted: { at: number; said: string } | null
  /** People who were marked for a refusal that was not about their address. */
  wronglyMarked: number
  dkim: { domain: string; selector: string; name: string; value: string } | null
  counts: { waiting: number; sent: number; refused: number; dropped: number }
  lastOutAt: number | null
  delivery: Record<string, Delivery>
  ownInboxes: OwnInbox[]
}

/** A code that was sent to an inbox of the owner's own; times in milliseconds since 1970. */
export interface OwnInbox {
  list: string
  to: string
  sentAt: number
  /** When the code was typed in; null until then. */
  arrivedAt: number | null
  /** Whether sender and server are still those of then. */
  isAsThen: boolean
}

export interface MailOnList {
  id: string
  list: string
  member: string
  kind: MailKind
  recipient: string
  queued: number
  due: number
  state: 'waiting' | 'sending' | 'sent' | 'refused' | 'dropped'
  attempts: number
  said: string
}

export interface MessageWish {
  list: string
  settings: MailSettings
  kind: MessageKind
}

export interface SenderFinding {
  about: 'free-mail' | 'return-path' | 'spf' | 'dmarc'
  verdict: 'good' | 'look' | 'unknown'
  found: string
  says: string
}

export interface BackupSettings {
  isOn: boolean
  /** Empty for a folder beside the store. */
  folder: string
  keep: number
}

/** Copies that make themselves, and mails to the owner when something broke; times in milliseconds since 1970. */
export interface CareState {
  backups: BackupSettings & {
    goesTo: string
    last: { at: number; path: string; bytes: number; entries: number } | null
    problem: { at: number; said: string } | null
  }
  alerts: { address: string; raised: { key: string; at: number; subject: string; text: string }[] }
}

export interface Box {
  address: string
  count: number
  newest: number
}

export type Client = ReturnType<typeof clientFor>

export type CommandOutcome = { id: Command['id'] } & ({ ok: true; n: number } | { ok: false; problem: Refusal })
export type ChangeOutcome = { kind: Kind; key: string } & (
  | { ok: true; revision: number }
  | { ok: false; conflict: { revision: number; body: Body | null } }
  | { ok: false; problem: ChangeRefusal }
)

/** Numbers of the newest entry and of the newest change to what the owner makes. */
export interface News {
  latest: number
  latestChange: number
}

/** A stretch of one of the receiver's two orders, and the cursor and mark from which to go on. */
interface Page {
  journal: JournalId
  cursor: number
  mark: string
  latest: number
}

/** The owner's API of one receiver. Every call throws `ReceiverProblem` or `Unreachable`. */
export function clientFor({ receiver, key }: Pairing) {
  async function call(path: string, init: RequestInit & { json?: unknown } = {}): Promise<Response> {
    const { json, ...rest } = init
    let response: Response
    try {
      response = await fetch(`${receiver}/api${path}`, {
        ...rest,
        ...(json !== undefined && { body: JSON.stringify(json) }),
        headers: {
          ...(rest.headers as Record<string, string> | undefined),
          Authorization: `Bearer ${key}`,
          ...(json !== undefined && { 'Content-Type': 'application/json' }),
        },
      })
    } catch (error) {
      throw new Unreachable(error instanceof Error ? error.message : 'no answer')
    }
    if (response.ok) return response
    const problem = (await response.json().catch(() => ({}))) as { detail?: string; errors?: { code: string }[] }
    throw new ReceiverProblem(
      response.status,
      problem.errors?.[0]?.code ?? '',
      problem.detail ?? `The receiver answered ${response.status}.`,
    )
  }
  const read = async <T>(path: string, init?: RequestInit & { json?: unknown }) => {
    const response = await call(path, init)
    try {
      return (await response.json()) as T
    } catch (error) {
      // The connection broke in the middle, or something else than the receiver answered.
      throw new Unreachable(error instanceof Error ? error.message : 'no whole answer')
    }
  }
  const after = (cursor: number, mark: string | null) =>
    `after=${cursor}${mark === null ? '' : `&mark=${encodeURIComponent(mark)}`}`

  return {
    describe: () => read<Description>('/receiver'),
    confirmClock: () => read<{ leap: ClockLeap | null }>('/clock/confirm', { method: 'POST' }),
    entriesAfter: (cursor: number, mark: string | null, limit: number) =>
      read<Page & { entries: Entry[] }>(`/journal?${after(cursor, mark)}&limit=${limit}`),
    objectsAfter: (cursor: number, mark: string | null) =>
      read<Page & { objects: Kept[] }>(`/objects?${after(cursor, mark)}`),
    sendChanges: (changes: readonly { kind: Kind; key: string; base: number; body: Body | null }[]) =>
      read<{ outcomes: ChangeOutcome[] }>('/changes', { method: 'POST', json: { changes } }),
    /** All of them or none. */
    sendChangesTogether: (changes: readonly { kind: Kind; key: string; base: number; body: Body | null }[]) =>
      read<{ outcomes: ChangeOutcome[] }>('/changes', { method: 'POST', json: { changes, together: true } }),
    picture: (id: string) => read<Picture>(`/pictures/${id}`),
    sendPicture: (picture: Picture) => read<{ ok: true }>(`/pictures/${picture.id}`, { method: 'PUT', json: picture }),
    sendCommands: (commands: Command[]) =>
      read<{ outcomes: CommandOutcome[] }>('/commands', { method: 'POST', json: { commands } }),
    /** A page as a visitor's browser gets it. A `ReceiverProblem` of 502 says why it could not be fetched. */
    fetchPage: (address: string) =>
      read<{ status: number; address: string; html: string; policies: string[] }>('/page', {
        method: 'POST',
        json: { address },
      }),
    startRehearsal: (spot: SpotId, byHand = false) =>
      read<{ code: string; hasBrowser: boolean }>('/rehearsals', { method: 'POST', json: { spot, byHand } }),
    describeBrowser: () => read<BrowserState>('/browser'),
    visitForRehearsal: (code: string, wish: VisitWish) =>
      read<Browsed<Visited>>(`/rehearsals/${code}/visit`, { method: 'POST', json: wish }),
    fetchForRehearsal: (code: string, address: string, as?: As) =>
      read<AnsweredPage>(`/rehearsals/${code}/fetch`, { method: 'POST', json: { address, as } }),
    /** @param body in base64 */
    sendForRehearsal: (
      code: string,
      wish: { address: string; contentType: string; body: string; as?: As | undefined },
    ) => read<AnsweredPage>(`/rehearsals/${code}/send`, { method: 'POST', json: wish }),
    lookUpForRehearsal: (code: string, email: string) =>
      read<SeenMember>(`/rehearsals/${code}/member?email=${encodeURIComponent(email)}`),
    mailsForRehearsal: (code: string, email: string) =>
      read<{ received: ReceivedMail[]; queued: OnItsWay[] }>(
        `/rehearsals/${code}/mails?email=${encodeURIComponent(email)}`,
      ),
    downloadForRehearsal: (code: string, address: string) =>
      read<{ status: number; address: string; size: number; sha256: string }>(`/rehearsals/${code}/download`, {
        method: 'POST',
        json: { address },
      }),
    expireForRehearsal: (code: string, email: string) =>
      read<{ ok: true }>(`/rehearsals/${code}/expire`, { method: 'POST', json: { email } }),
    endRehearsal: (code: string) => read<{ ok: true }>(`/rehearsals/${code}/end`, { method: 'POST' }),
    mailState: () => read<MailState>('/mail'),
    mailsInState: (state: MailOnList['state']) => read<{ mails: MailOnList[] }>(`/mail/queue?state=${state}`),
    tryMailAgain: (id: string) =>
      read<{ isQueued: boolean }>(`/mail/queue/${encodeURIComponent(id)}/again`, { method: 'POST' }),
    keepMailServer: (server: MailServer | null) => read<MailState>('/mail/server', { method: 'PUT', json: { server } }),
    keepPace: (pace: MailState['pace'], isStopped: boolean) =>
      read<MailState>('/mail/pace', { method: 'PUT', json: { pace, isStopped } }),
    goOnSending: () => read<MailState>('/mail/go-on', { method: 'POST' }),
    putBackMarked: () => read<{ count: number; mail: MailState }>('/mail/put-back', { method: 'POST' }),
    keepDkim: (domain: string | null) => read<MailState>('/mail/dkim', { method: 'PUT', json: { domain } }),
    sendTestMail: (to: string, message: MessageWish | null) =>
      read<{ ok: boolean; said: string }>('/mail/test', { method: 'POST', json: { to, message } }),
    sendCode: (list: string, to: string) =>
      read<{ ok: boolean; said: string }>('/mail/inbox', { method: 'POST', json: { list, to } }),
    typeCode: (list: string, code: string) =>
      read<{ ok: boolean; said: string }>('/mail/inbox/code', { method: 'POST', json: { list, code } }),
    writeMessage: (to: string, message: MessageWish) =>
      read<{ eml: string }>('/mail/message', { method: 'POST', json: { to, ...message } }),
    checkSender: (sender: string, bounce: string) =>
      read<{ findings: SenderFinding[] }>(
        `/mail/sender?sender=${encodeURIComponent(sender)}&bounce=${encodeURIComponent(bounce)}`,
      ),
    /** @param bytes of one mail */
    sendReport: (bytes: BufferSource) =>
      read<{ recipient: string; status: string; isForGood: boolean; member: boolean }>('/mail/reports', {
        method: 'POST',
        body: bytes,
        headers: { 'Content-Type': 'message/rfc822' },
      }),
    care: () => read<CareState>('/care'),
    keepBackups: (backups: BackupSettings) => read<CareState>('/care/backups', { method: 'PUT', json: backups }),
    makeBackup: () => read<CareState>('/care/backups/now', { method: 'POST' }),
    keepAlerts: (address: string) => read<CareState>('/care/alerts', { method: 'PUT', json: { address } }),
    boxes: () => read<{ boxes: Box[]; behaviour: { rules: MailboxRule[] } }>('/mailbox'),
    mailsInBox: (address: string) =>
      read<{ mails: { id: string; at: number; bytes: string }[] }>(`/mailbox/${encodeURIComponent(address)}`),
    behaveMailbox: (rules: MailboxRule[]) =>
      read<{ ok: true }>('/mailbox/behaviour', { method: 'PUT', json: { rules } }),
    emptyMailbox: () => read<{ ok: true }>('/mailbox/empty', { method: 'POST' }),
    /** @param id SHA-256 of its bytes */
    hasFile: (id: string) =>
      call(`/files/${id}`, { method: 'HEAD' }).then(
        () => true,
        (error: unknown) => {
          if (error instanceof ReceiverProblem && error.status === 404) return false
          throw error
        },
      ),
    file: async (id: string) => (await call(`/files/${id}`)).blob(),
    keepFile: (id: string, file: Blob) => read<{ size: number }>(`/files/${id}`, { method: 'PUT', body: file }),
    refill: (journal: JournalId, entries: Entry[]) =>
      read<{ latest: number }>('/refill', { method: 'POST', json: { journal, entries } }),
    recover: (common: number, entries: Entry[]) =>
      read<{ latest: number; taken: number; left: number }>('/recover', { method: 'POST', json: { common, entries } }),
    /** Calls `onNews` whenever one of the two orders has grown, until the stream breaks or `signal` ends it. Returns when it ended. */
    async listen(onNews: (news: News) => void, signal: AbortSignal): Promise<void> {
      const response = await call('/stream', { signal })
      const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader()
      for (let rest = ''; ;) {
        const { value, done } = await reader.read()
        if (done) return
        const lines = (rest + value).split('\n')
        rest = lines.pop() ?? ''
        // Of several that came at once, the last says it all. A line without numbers only shows that the stream lives.
        const news = lines.findLast((line) => line.includes('latest'))
        if (news !== undefined) onNews(JSON.parse(news) as News)
      }
    },
  }
}
