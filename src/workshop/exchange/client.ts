import type { JournalId } from '#core/ids'
import type { Command, Entry } from '#core/journal'
import type { Refusal } from '#core/list'
import type { Published } from '#core/workspace'

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
    throw new ReceiverProblem(response.status, problem.errors?.[0]?.code ?? '', problem.detail ?? `The receiver answered ${response.status}.`)
  }
  const read = async <T>(path: string, init?: RequestInit & { json?: unknown }) => (await (await call(path, init)).json()) as T

  return {
    describe: () => read<{ journal: JournalId; latest: number; publicUrl: string }>('/receiver'),
    entriesAfter: (after: number) => read<{ journal: JournalId; entries: Entry[]; latest: number }>(`/journal?after=${after}`),
    published: () => read<Published>('/published'),
    publish: (published: Published) => read<{ ok: true }>('/published', { method: 'PUT', json: published }),
    send: (commands: Command[]) => read<{ outcomes: CommandOutcome[] }>('/commands', { method: 'POST', json: { commands } }),
    refill: (journal: JournalId, entries: Entry[]) => read<{ latest: number }>('/refill', { method: 'POST', json: { journal, entries } }),
    /** Calls `onNews` for every line of the stream, until it breaks or `signal` ends it. Returns when it ended. */
    async listen(onNews: () => void, signal: AbortSignal): Promise<void> {
      const response = await call('/stream', { signal })
      const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader()
      for (let rest = ''; ; ) {
        const { value, done } = await reader.read()
        if (done) return
        const lines = (rest + value).split('\n')
        rest = lines.pop() ?? ''
        if (lines.some((line) => line.includes('latest'))) onNews()
      }
    },
  }
}
