import type { z } from 'zod'
import type {
  api as Table,
  AskService,
  BackupSettings,
  ComparedStanding,
  KeyGrant,
  MailOnList,
  MailServer,
  MessageWish,
  News,
  Pace,
  Route,
} from '#core/api'
import { type Connection, type HandOver, originsOf, type ServiceFile } from '#core/connection'
import type {
  ArrivalId,
  FeedId,
  FormId,
  JournalId,
  ListId,
  MemberId,
  SendingId,
  SeriesId,
  SiteId,
  SpotId,
} from '#core/ids'
import type { FeedContent, LetterBody, LetterContent, LetterTime, SendingSource } from '#core/letter'
import type { Batch, Chunk, Command, Entry } from '#core/journal'
import type { MailboxRule } from '#core/mailbox'
import type { Picture } from '#core/picture'
import type { As, MailWish, VisitWish } from '#core/rehearsal'
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

type Api = typeof Table
/** Its schemas are loaded with the first request, not with the first screen. */
const table = (): Promise<Api> =>
  import('#core/api').then(
    ({ api }) => api,
    (error: Error) => Promise.reject(new Unreachable(error.message)),
  )

type Input<One extends Route, Name extends 'params' | 'query' | 'body'> = One extends {
  readonly [N in Name]: infer Schema extends z.ZodType
}
  ? { [N in Name]: z.input<Schema> }
  : object
/** What goes with a request, by its route. */
type Wish<One extends Route> = Input<One, 'params'> & Input<One, 'query'> & Input<One, 'body'>
type Answer<One extends Route> = z.output<
  One extends { readonly read: infer Read extends z.ZodType } ? Read : One['answer']
>

/** The owner's API of one receiver. Every call throws `ReceiverProblem` or `Unreachable`. */
export function clientFor({ receiver, key }: Pairing) {
  async function call(
    pick: (api: Api) => Route,
    { params = {}, query = {}, body }: { params?: object; query?: object; body?: unknown } = {},
    init: RequestInit = {},
  ): Promise<Response> {
    const { method, path, takes = 'application/json' } = pick(await table())
    const filled = path.replace(/\{(\w+)\}/g, (_, name: string) =>
      encodeURIComponent(String((params as Record<string, unknown>)[name])),
    )
    const given = Object.entries(query).filter(([, value]) => value !== undefined && value !== null)
    const search = new URLSearchParams(given.map(([name, value]) => [name, String(value)])).toString()
    let response: Response
    try {
      response = await fetch(`${receiver}/api${filled}${search === '' ? '' : `?${search}`}`, {
        method: method.toUpperCase(),
        ...(body !== undefined && { body: takes === 'application/json' ? JSON.stringify(body) : (body as BodyInit) }),
        headers: { Authorization: `Bearer ${key}`, ...(body !== undefined && { 'Content-Type': takes }) },
        ...init,
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
  async function ask<One extends Route>(pick: (api: Api) => One, wish: Wish<One>): Promise<Answer<One>> {
    const response = await call(pick, wish)
    const route: Route = pick(await table())
    let answer: unknown
    try {
      answer = await response.json()
    } catch (error) {
      // The connection broke in the middle, or something else than the receiver answered.
      throw new Unreachable(error instanceof Error ? error.message : 'no whole answer')
    }
    const reading = (route.read ?? route.answer).safeParse(answer)
    if (reading.success) return reading.data as Answer<One>
    const at = reading.error.issues[0]?.path.join('.') ?? ''
    throw new ReceiverProblem(
      response.status,
      'not-understood',
      `The receiver answered what this workshop cannot read (${route.path}${at && `, ${at}`}). Load the page anew; should that not help, bring both to the same version.`,
    )
  }
  return {
    describe: () => ask((api) => api.receiver.describeReceiver, {}),
    confirmClock: () => ask((api) => api.receiver.confirmClock, {}),
    entriesAfter: (after: number, mark: string | null, limit: number) =>
      ask((api) => api.history.readJournal, { query: { after, mark: mark ?? undefined, limit } }),
    objectsAfter: (after: number, mark: string | null) =>
      ask((api) => api.history.readObjects, { query: { after, mark: mark ?? undefined, limit: undefined } }),
    sendChanges: (changes: readonly Change[]) =>
      ask((api) => api.history.takeChanges, { body: { changes: [...changes] } }),
    /** All of them or none. */
    sendChangesTogether: (changes: readonly Change[]) =>
      ask((api) => api.history.takeChanges, { body: { changes: [...changes], together: true } }),
    picture: (id: string) => ask((api) => api.pictures.readPicture, { params: { id } }),
    sendPicture: (picture: Picture) =>
      ask((api) => api.pictures.keepPicture, { params: { id: picture.id }, body: picture }),
    askErased: (addresses: string[]) => ask((api) => api.batches.askErased, { body: { addresses } }),
    beginBatch: (batch: Batch) => ask((api) => api.batches.beginBatch, { body: batch }),
    addBatchChunk: (id: string, number: number, chunk: Chunk) =>
      ask((api) => api.batches.addBatchChunk, { params: { id, number }, body: chunk }),
    applyBatch: (id: string) => ask((api) => api.batches.applyBatch, { params: { id } }),
    stopBatch: (id: string) => ask((api) => api.batches.stopBatch, { params: { id } }),
    batch: (id: string) => ask((api) => api.batches.readBatch, { params: { id } }),
    checkJournal: (after: number) => ask((api) => api.history.checkJournal, { query: { after } }),
    memberDigests: (list: ListId, after: number) =>
      ask((api) => api.history.readDigests, { params: { list }, query: { after } }),
    sendCommands: (commands: Command[]) => ask((api) => api.history.carryOutCommands, { body: { commands } }),
    /** A page as a visitor's browser gets it. A `ReceiverProblem` of 502 says why it could not be fetched. */
    fetchPage: (address: string) => ask((api) => api.pages.fetchOnePage, { body: { address } }),
    stillPage: (address: string) => ask((api) => api.sites.stillPage, { body: { address } }),
    crawl: (id: SiteId) => ask((api) => api.sites.readCrawl, { params: { id } }),
    beginCrawl: (id: SiteId) => ask((api) => api.sites.beginCrawl, { params: { id } }),
    stopCrawl: (id: SiteId) => ask((api) => api.sites.stopCrawl, { params: { id } }),
    repeatCrawl: (id: SiteId, isRepeated: boolean) =>
      ask((api) => api.sites.repeatCrawl, { params: { id }, body: { isRepeated } }),
    crawlNeeds: () => ask((api) => api.sites.crawlNeeds, {}),
    releaseMessages: (messages: ArrivalId[]) => ask((api) => api.messages.releaseMessages, { body: { messages } }),
    eraseMessages: (messages: ArrivalId[]) => ask((api) => api.messages.eraseMessages, { body: { messages } }),
    startRehearsal: (spot: SpotId, byHand = false) =>
      ask((api) => api.rehearsals.startRehearsal, { body: { spot, byHand } }),
    describeBrowser: () => ask((api) => api.receiver.describeBrowser, {}),
    visitForRehearsal: (code: string, wish: VisitWish) =>
      ask((api) => api.rehearsals.visitForRehearsal, { params: { code }, body: wish }),
    readForRehearsal: (code: string, wish: MailWish) =>
      ask((api) => api.rehearsals.readForRehearsal, { params: { code }, body: wish }),
    fetchForRehearsal: (code: string, address: string, as?: As) =>
      ask((api) => api.rehearsals.fetchForRehearsal, { params: { code }, body: { address, as } }),
    /** @param body in base64 */
    sendForRehearsal: (
      code: string,
      wish: { address: string; contentType: string; body: string; as?: As | undefined },
    ) => ask((api) => api.rehearsals.sendForRehearsal, { params: { code }, body: wish }),
    lookUpForRehearsal: (code: string, email: string) =>
      ask((api) => api.rehearsals.lookUpForRehearsal, { params: { code }, query: { email } }),
    handOnForRehearsal: (code: string, email: string) =>
      ask((api) => api.rehearsals.handOnForRehearsal, { params: { code }, body: { email } }),
    mailsForRehearsal: (code: string, email: string) =>
      ask((api) => api.rehearsals.mailsForRehearsal, { params: { code }, query: { email } }),
    downloadForRehearsal: (code: string, address: string) =>
      ask((api) => api.rehearsals.downloadForRehearsal, { params: { code }, body: { address } }),
    expireForRehearsal: (code: string, email: string) =>
      ask((api) => api.rehearsals.expireForRehearsal, { params: { code }, body: { email } }),
    endRehearsal: (code: string) => ask((api) => api.rehearsals.endRehearsal, { params: { code } }),
    mailState: () => ask((api) => api.mail.readMailState, {}),
    mailsInState: (state: MailOnList['state']) => ask((api) => api.mail.listMails, { query: { state } }),
    mailsToMember: (member: string) =>
      ask((api) => api.mail.listMailsToMember, { params: { member: member as MemberId } }),
    tryMailAgain: (id: string) => ask((api) => api.mail.tryMailAgain, { params: { id } }),
    keepMailServer: (server: MailServer | null) => ask((api) => api.mail.keepMailServer, { body: { server } }),
    keepPace: (pace: Pace, isStopped: boolean) => ask((api) => api.mail.keepPace, { body: { pace, isStopped } }),
    goOnSending: () => ask((api) => api.mail.goOn, {}),
    putBackMarked: () => ask((api) => api.mail.putBackMarked, {}),
    keepDkim: (domain: string | null) => ask((api) => api.mail.keepDkim, { body: { domain } }),
    sendTestMail: (to: string, message: MessageWish | null) =>
      ask((api) => api.mail.sendTest, { body: { to, message } }),
    sendCode: (list: string, to: string) => ask((api) => api.mail.sendCode, { body: { list, to } }),
    typeCode: (list: string, code: string) => ask((api) => api.mail.typeCode, { body: { list, code } }),
    writeMessage: (to: string, message: MessageWish) =>
      ask((api) => api.mail.writeMessage, { body: { to, ...message } }),
    checkSender: (sender: string, bounce: string) =>
      ask((api) => api.mail.checkSenderRoute, { query: { sender, bounce } }),
    awaitRecords: (sender: string, bounce: string, look: boolean) =>
      ask((api) => api.mail.awaitRecords, { body: { sender, bounce, look } }),
    /** @param bytes of one mail */
    sendReport: (bytes: BufferSource) => ask((api) => api.mail.takeReport, { body: bytes }),
    outside: () => ask((api) => api.handOver.readOutside, {}),
    seen: (from: string, to: string) => ask((api) => api.results.readSeen, { query: { from, to } }),
    /** One sum of each spot, version and source over all of those days. */
    seenOver: (from: string, to: string) => ask((api) => api.results.readSeen, { query: { from, to, whole: 'yes' } }),
    /** Null takes it away. It goes where the connection goes now, and nowhere else. */
    keepKey: ({ id, way }: Pick<Connection, 'id' | 'way'>, key: string | null) =>
      ask((api) => api.handOver.keepKey, { params: { id }, body: { key, origins: originsOf(way) } }),
    goOnWith: (id: string) => ask((api) => api.handOver.goOnWith, { params: { id } }),
    saveKeys: (passphrase: string) => ask((api) => api.handOver.saveKeys, { body: { passphrase } }),
    openKeys: (passphrase: string, sealed: string) =>
      ask((api) => api.handOver.openKeys, { body: { passphrase, sealed } }),
    beginHandingOver: (id: string) => ask((api) => api.handOver.beginHandingOver, { params: { id } }),
    askService: (wish: AskService) => ask((api) => api.handOver.askConnection, { body: wish }),
    /** @returns where the owner signs in */
    signIn: (id: string, service: ServiceFile, asked: Record<string, string>) =>
      ask((api) => api.handOver.signInAt, { params: { id }, body: { service, asked } }),
    tryHandOver: (connection: Connection, tried: HandOver, key?: string, mark?: string) =>
      ask((api) => api.handOver.tryOut, { body: { connection, handOver: tried, key, mark } }),
    handOverAgain: (id: string, members?: string[]) =>
      ask((api) => api.handOver.handOverAgain, { params: { id }, body: { members } }),
    refusedOf: (id: string) => ask((api) => api.handOver.listRefused, { params: { id } }),
    handedOf: (member: string) => ask((api) => api.handOver.handedOf, { params: { member } }),
    beginComparing: (id: string) => ask((api) => api.handOver.beginComparing, { params: { id } }),
    comparison: (id: string) => ask((api) => api.handOver.readComparison, { params: { id } }),
    stopComparing: (id: string) => ask((api) => api.handOver.stopComparing, { params: { id } }),
    mendThere: (id: string, standing: ComparedStanding) =>
      ask((api) => api.handOver.mend, { params: { id }, body: { standing } }),
    foundPeople: (id: string, standing: ComparedStanding) =>
      ask((api) => api.handOver.foundPeople, { params: { id, standing } }),
    keys: () => ask((api) => api.keys.readKeys, {}),
    withdrawKey: (id: string) => ask((api) => api.keys.withdrawKey, { params: { id } }),
    shutAddress: (id: string) => ask((api) => api.keys.shutAddress, { params: { id } }),
    makeLinkKeyAnew: () => ask((api) => api.keys.makeLinkKeyAnew, {}),
    saveLinkKeys: (passphrase: string) => ask((api) => api.keys.saveLinkKeys, { body: { passphrase } }),
    openLinkKeys: (from: { sealed: string; passphrase: string } | { plain: string }) =>
      ask((api) => api.keys.openLinkKeys, { body: from }),
    makeServiceAddressAnew: (id: string) => ask((api) => api.keys.makeServiceAddressAnew, { params: { id } }),
    newPairingAddress: (grant: KeyGrant) => ask((api) => api.keys.newPairingAddress, { body: grant }),
    clientPages: () => ask((api) => api.clients.readClientPages, {}),
    makeClientPage: (name: string, forms: FormId[], until: number | null) =>
      ask((api) => api.clients.makeClientPage, { body: { name, forms, until } }),
    withdrawClientPage: (id: string) => ask((api) => api.clients.withdrawClientPage, { params: { id } }),
    sayPresent: (place: string, tab: string) => ask((api) => api.presence.sayPresent, { body: { place, tab } }),
    care: () => ask((api) => api.care.readCare, {}),
    keepBackups: (backups: BackupSettings) => ask((api) => api.care.keepBackups, { body: backups }),
    makeBackup: () => ask((api) => api.care.makeBackup, {}),
    keepAlerts: (address: string) => ask((api) => api.care.keepAlerts, { body: { address } }),
    sendings: () => ask((api) => api.letters.listSendings, {}),
    sending: (id: SendingId) => ask((api) => api.letters.readSending, { params: { id } }),
    sendLetter: (sending: { id: SendingId; source: SendingSource; content: LetterContent; when: LetterTime }) =>
      ask((api) => api.letters.send, { body: sending }),
    changeSending: (id: SendingId, to: 'yes' | 'stop' | 'go-on' | 'cancel') =>
      ask((api) => api.letters.changeSending, { params: { id }, body: { to } }),
    mendSending: (id: SendingId, body: LetterBody) =>
      ask((api) => api.letters.mendSending, { params: { id }, body: { body } }),
    readersOf: (content: LetterContent) => ask((api) => api.letters.readReaders, { body: { content } }),
    tryLinksOf: (content: LetterContent) => ask((api) => api.letters.tryLinks, { body: { content } }),
    sendTestLetter: (to: string, content: LetterContent) =>
      ask((api) => api.letters.sendTestLetter, { body: { to, content } }),
    tryLetter: (content: LetterContent) => ask((api) => api.letters.tryLetter, { body: { content } }),
    lettersOf: (member: string) => ask((api) => api.letters.listLettersOf, { params: { member: member as MemberId } }),
    feedState: (id: FeedId) => ask((api) => api.letters.readFeed, { params: { id } }),
    lookAtFeed: (content: FeedContent) => ask((api) => api.letters.lookAtFeed, { body: { content } }),
    readFeedNow: (id: FeedId) => ask((api) => api.letters.readFeedNow, { params: { id } }),
    seriesState: (id: SeriesId) => ask((api) => api.letters.readSeries, { params: { id } }),
    lettersNeedingHand: () => ask((api) => api.letters.lettersNeedingHand, {}),
    boxes: () => ask((api) => api.mailbox.listBoxes, {}),
    mailsInBox: (address: string) => ask((api) => api.mailbox.readBox, { params: { address } }),
    behaveMailbox: (rules: MailboxRule[]) => ask((api) => api.mailbox.behaveMailbox, { body: { rules } }),
    emptyMailbox: () => ask((api) => api.mailbox.emptyMailbox, {}),
    /** @param id SHA-256 of its bytes */
    hasFile: (id: string) =>
      call((api) => api.files.readFile, { params: { id } }, { method: 'HEAD' }).then(
        () => true,
        (error: unknown) => {
          if (error instanceof ReceiverProblem && error.status === 404) return false
          throw error
        },
      ),
    file: async (id: string) => (await call((api) => api.files.readFile, { params: { id } })).blob(),
    keepFile: (id: string, file: Blob) => ask((api) => api.files.keepFile, { params: { id }, body: file }),
    refill: (journal: JournalId, entries: Entry[]) => ask((api) => api.history.refill, { body: { journal, entries } }),
    recover: (common: number, entries: Entry[]) => ask((api) => api.history.recover, { body: { common, entries } }),
    /** Calls `onNews` whenever one of the two orders has grown, until the stream breaks or `signal` ends it. Returns when it ended. */
    async listen(onNews: (news: News) => void, signal: AbortSignal): Promise<void> {
      const { followNews } = (await table()).history
      const response = await call(() => followNews, {}, { signal })
      const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader()
      for (let rest = ''; ;) {
        const { value, done } = await reader.read()
        if (done) return
        const lines = (rest + value).split('\n')
        rest = lines.pop() ?? ''
        // Of several that came at once, the last says it all. A line without numbers only shows that the stream lives.
        const news = lines.findLast((line) => line.includes('latest'))
        if (news !== undefined) onNews(followNews.answer.parse(JSON.parse(news)) as News)
      }
    },
  }
}
