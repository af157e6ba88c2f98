import type { JournalId } from '#core/ids'
import type { Command, Entry } from '#core/journal'
import type { Refusal } from '#core/list'
import type { Picture } from '#core/picture'
import type { SeenMember } from '#core/proof'
import type { AnsweredPage, As } from '#core/rehearsal'
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
        headers: { Authorization: `Bearer ${key}`, ...(json !== undefined && { 'Content-Type': 'application/json' }) },
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
    describe: () => read<{ journal: JournalId; latest: number; latestChange: number; publicUrl: string }>('/receiver'),
    entriesAfter: (cursor: number, mark: string | null, limit: number) =>
      read<Page & { entries: Entry[] }>(`/journal?${after(cursor, mark)}&limit=${limit}`),
    objectsAfter: (cursor: number, mark: string | null) =>
      read<Page & { objects: Kept[] }>(`/objects?${after(cursor, mark)}`),
    sendChanges: (changes: readonly { kind: Kind; key: string; base: number; body: Body | null }[]) =>
      read<{ outcomes: ChangeOutcome[] }>('/changes', { method: 'POST', json: { changes } }),
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
    startRehearsal: () => read<{ code: string }>('/rehearsals', { method: 'POST' }),
    fetchForRehearsal: (code: string, address: string, as?: As) =>
      read<AnsweredPage>(`/rehearsals/${code}/fetch`, { method: 'POST', json: { address, as } }),
    /** @param body in base64 */
    sendForRehearsal: (
      code: string,
      wish: { address: string; contentType: string; body: string; as?: As | undefined },
    ) => read<AnsweredPage>(`/rehearsals/${code}/send`, { method: 'POST', json: wish }),
    lookUpForRehearsal: (code: string, email: string) =>
      read<SeenMember>(`/rehearsals/${code}/member?email=${encodeURIComponent(email)}`),
    endRehearsal: (code: string) => read<{ ok: true }>(`/rehearsals/${code}/end`, { method: 'POST' }),
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
