import type {
  AskedService,
  AskService,
  BackupSettings,
  BatchProgress,
  BrowserState,
  Box,
  CareState,
  ChangeOutcome,
  ClockLeap,
  ComparedPerson,
  ComparedStanding,
  Comparison,
  ConnectionStanding,
  CommandOutcome,
  Downloaded,
  EntriesPage,
  FetchedPage,
  HandedShown,
  HandOverStanding,
  JournalCheck,
  MemberDigests,
  MailOnList,
  MailServer,
  MailState,
  MessageWish,
  News,
  ObjectsPage,
  Outside,
  OwnersKey,
  Pace,
  PairingAddress,
  ReceiverDescription,
  RefusedPerson,
  RehearsalMails,
  Seen,
  SenderFinding,
  StartedRehearsal,
  ToMember,
  TriedHandOver,
} from '#core/api'
import { type Connection, type HandOver, originsOf, type ServiceFile } from '#core/connection'
import type { JournalId, ListId, SpotId } from '#core/ids'
import type { Batch, Chunk, Command, Entry } from '#core/journal'
import type { MailboxRule } from '#core/mailbox'
import type { Picture } from '#core/picture'
import type { HandedOn, SeenMember } from '#core/proof'
import type { As, Browsed, Visited, VisitWish } from '#core/rehearsal'
import type { Change } from '#core/sync'

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

export type Client = ReturnType<typeof clientFor>

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
    describe: () => read<ReceiverDescription>('/receiver'),
    confirmClock: () => read<{ leap: ClockLeap | null }>('/clock/confirm', { method: 'POST' }),
    entriesAfter: (cursor: number, mark: string | null, limit: number) =>
      read<EntriesPage>(`/journal?${after(cursor, mark)}&limit=${limit}`),
    objectsAfter: (cursor: number, mark: string | null) => read<ObjectsPage>(`/objects?${after(cursor, mark)}`),
    sendChanges: (changes: readonly Change[]) =>
      read<{ outcomes: ChangeOutcome[] }>('/changes', { method: 'POST', json: { changes } }),
    /** All of them or none. */
    sendChangesTogether: (changes: readonly Change[]) =>
      read<{ outcomes: ChangeOutcome[] }>('/changes', { method: 'POST', json: { changes, together: true } }),
    picture: (id: string) => read<Picture>(`/pictures/${id}`),
    sendPicture: (picture: Picture) => read<{ ok: true }>(`/pictures/${picture.id}`, { method: 'PUT', json: picture }),
    beginBatch: (batch: Batch) => read<BatchProgress>('/batches', { method: 'POST', json: batch }),
    addBatchChunk: (id: string, number: number, chunk: Chunk) =>
      read<BatchProgress>(`/batches/${id}/chunks/${number}`, { method: 'PUT', json: chunk }),
    applyBatch: (id: string) => read<BatchProgress>(`/batches/${id}/apply`, { method: 'POST' }),
    stopBatch: (id: string) => read<BatchProgress>(`/batches/${id}/stop`, { method: 'POST' }),
    batch: (id: string) => read<BatchProgress>(`/batches/${id}`),
    checkJournal: (after: number) => read<JournalCheck>(`/journal/check?after=${after}`),
    memberDigests: (list: ListId, after: number) => read<MemberDigests>(`/lists/${list}/digests?after=${after}`),
    sendCommands: (commands: Command[]) =>
      read<{ outcomes: CommandOutcome[] }>('/commands', { method: 'POST', json: { commands } }),
    /** A page as a visitor's browser gets it. A `ReceiverProblem` of 502 says why it could not be fetched. */
    fetchPage: (address: string) =>
      read<FetchedPage>('/page', {
        method: 'POST',
        json: { address },
      }),
    startRehearsal: (spot: SpotId, byHand = false) =>
      read<StartedRehearsal>('/rehearsals', { method: 'POST', json: { spot, byHand } }),
    describeBrowser: () => read<BrowserState>('/browser'),
    visitForRehearsal: (code: string, wish: VisitWish) =>
      read<Browsed<Visited>>(`/rehearsals/${code}/visit`, { method: 'POST', json: wish }),
    fetchForRehearsal: (code: string, address: string, as?: As) =>
      read<FetchedPage>(`/rehearsals/${code}/fetch`, { method: 'POST', json: { address, as } }),
    /** @param body in base64 */
    sendForRehearsal: (
      code: string,
      wish: { address: string; contentType: string; body: string; as?: As | undefined },
    ) => read<FetchedPage>(`/rehearsals/${code}/send`, { method: 'POST', json: wish }),
    lookUpForRehearsal: (code: string, email: string) =>
      read<SeenMember>(`/rehearsals/${code}/member?email=${encodeURIComponent(email)}`),
    handOnForRehearsal: (code: string, email: string) =>
      read<{ handed: HandedOn[] }>(`/rehearsals/${code}/hand-on`, { method: 'POST', json: { email } }),
    mailsForRehearsal: (code: string, email: string) =>
      read<RehearsalMails>(`/rehearsals/${code}/mails?email=${encodeURIComponent(email)}`),
    downloadForRehearsal: (code: string, address: string) =>
      read<Downloaded>(`/rehearsals/${code}/download`, {
        method: 'POST',
        json: { address },
      }),
    expireForRehearsal: (code: string, email: string) =>
      read<{ ok: true }>(`/rehearsals/${code}/expire`, { method: 'POST', json: { email } }),
    endRehearsal: (code: string) => read<{ ok: true }>(`/rehearsals/${code}/end`, { method: 'POST' }),
    mailState: () => read<MailState>('/mail'),
    mailsInState: (state: MailOnList['state']) => read<{ mails: MailOnList[] }>(`/mail/queue?state=${state}`),
    mailsToMember: (member: string) => read<ToMember>(`/mail/members/${encodeURIComponent(member)}`),
    tryMailAgain: (id: string) =>
      read<{ isQueued: boolean }>(`/mail/queue/${encodeURIComponent(id)}/again`, { method: 'POST' }),
    keepMailServer: (server: MailServer | null) => read<MailState>('/mail/server', { method: 'PUT', json: { server } }),
    keepPace: (pace: Pace, isStopped: boolean) =>
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
    outside: () => read<Outside>('/outside'),
    seen: (from: string, to: string) => read<Seen>(`/seen?from=${from}&to=${to}`),
    /** Null takes it away. It goes where the connection goes now, and nowhere else. */
    keepKey: ({ id, way }: Pick<Connection, 'id' | 'way'>, key: string | null) =>
      read<ConnectionStanding>(`/connections/${id}/key`, { method: 'PUT', json: { key, origins: originsOf(way) } }),
    goOnWith: (id: string) => read<ConnectionStanding>(`/connections/${id}/go-on`, { method: 'POST' }),
    saveKeys: (passphrase: string) =>
      read<{ sealed: string }>('/connections/keys/save', { method: 'POST', json: { passphrase } }),
    openKeys: (passphrase: string, sealed: string) =>
      read<{ count: number }>('/connections/keys/open', { method: 'POST', json: { passphrase, sealed } }),
    askService: (ask: AskService) => read<AskedService>('/connections/ask', { method: 'POST', json: ask }),
    /** @returns where the owner signs in */
    signIn: (id: string, service: ServiceFile, asked: Record<string, string>) =>
      read<{ address: string }>(`/connections/${id}/sign-in`, { method: 'POST', json: { service, asked } }),
    tryHandOver: (connection: Connection, handOver: HandOver, key?: string) =>
      read<TriedHandOver>('/hand-overs/try', { method: 'POST', json: { connection, handOver, key } }),
    handOverAgain: (id: string, members?: string[]) =>
      read<HandOverStanding>(`/hand-overs/${id}/again`, { method: 'POST', json: { members } }),
    refusedOf: (id: string) => read<{ handed: RefusedPerson[] }>(`/hand-overs/${id}/refused`),
    handedOf: (member: string) => read<{ handed: HandedShown[] }>(`/members/${encodeURIComponent(member)}/handed`),
    beginComparing: (id: string) => read<Comparison>(`/hand-overs/${id}/compare`, { method: 'POST' }),
    comparison: (id: string) => read<Comparison>(`/hand-overs/${id}/compare`),
    stopComparing: (id: string) => read<Comparison>(`/hand-overs/${id}/compare/stop`, { method: 'POST' }),
    mendThere: (id: string, standing: ComparedStanding) =>
      read<{ count: number }>(`/hand-overs/${id}/mend`, { method: 'POST', json: { standing } }),
    foundPeople: (id: string, standing: ComparedStanding) =>
      read<{ people: ComparedPerson[] }>(`/hand-overs/${id}/found/${standing}`),
    keys: () => read<{ keys: OwnersKey[] }>('/keys'),
    withdrawKey: (id: string) => read<{ keys: OwnersKey[] }>(`/keys/${id}/withdraw`, { method: 'POST' }),
    newPairingAddress: () => read<PairingAddress>('/keys/pairing', { method: 'POST' }),
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
