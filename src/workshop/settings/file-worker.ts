import { JSONParser } from '@streamparser/json'
import { expose } from 'comlink'
import {
  checkWorkspace,
  notJson,
  type WorkspaceChecker,
  workspaceFacts,
  type WorkspaceFact,
  type WorkspacePart,
  workspaceParts,
  type WorkspaceProblem,
  writeWorkspaceFrom,
} from '#core/workspace'
import { beginReplacing, endReplacing, takeItems, workspaceSource } from '../data'
import { type Task, taskOf } from '../worker-calls'

/** Writes and reads workspace files as streams: they can be longer than any text the browser can hold. */
const functions = {
  /** @param linkKeys sealed; null to leave them out */
  write: (port: MessagePort, now: string, linkKeys: string | null) => write(taskOf(port), now, linkKeys),
  /** Looks through a file without changing anything. */
  check: (port: MessagePort, file: File) => refusable(() => check(taskOf(port), file)),
  /** Puts a checked file in the place of everything here. */
  open: (port: MessagePort, file: File, now: string) => refusable(() => open(taskOf(port), file, now)),
}
export type FileFunctions = typeof functions
expose(functions)

export type Readable<Result> = ({ ok: true } & Result) | { ok: false; problem: WorkspaceProblem }

/** What is wrong with a file is an answer; anything else that goes wrong is an error. */
async function refusable<Result>(work: () => Promise<Result>): Promise<Readable<Result>> {
  try {
    return { ok: true, ...(await work()) }
  } catch (error) {
    if (error instanceof FileProblem) return { ok: false, problem: error.problem }
    throw error
  }
}

/** Pieces of text become parts of one blob, which the browser can keep on disk. */
const PART_LENGTH = 4_000_000

async function write({ tell }: Task, now: string, linkKeys: string | null): Promise<Blob> {
  const source = await workspaceSource(now, linkKeys)
  let done = 0
  const counted: typeof source = {
    ...source,
    async *items(part) {
      for await (const batch of source.items(part)) {
        yield batch
        done += batch.length
        tell(done / Math.max(1, source.count))
      }
    },
  }
  const parts: Blob[] = []
  let pieces: string[] = []
  let length = 0
  for await (const piece of writeWorkspaceFrom(counted)) {
    pieces.push(piece)
    length += piece.length
    if (length < PART_LENGTH) continue
    parts.push(new Blob(pieces))
    ;[pieces, length] = [[], 0]
  }
  return new Blob([...parts, ...pieces], { type: 'application/json' })
}

async function check(
  { tell }: Task,
  file: File,
): Promise<{ counts: Partial<Record<WorkspacePart, number>>; exportedAt: string }> {
  const counts: Partial<Record<WorkspacePart, number>> = {}
  const { facts } = await readFile(
    file,
    async (part, items) => void (counts[part] = (counts[part] ?? 0) + items.length),
    tell,
  )
  return { counts, exportedAt: String(facts.exportedAt) }
}

async function open({ tell }: Task, file: File, now: string): Promise<object> {
  await beginReplacing(file.name)
  const counts: Partial<Record<WorkspacePart, number>> = {}
  const { facts } = await readFile(
    file,
    async (part, items) => {
      await takeItems(part, items, now, counts[part] ?? 0)
      counts[part] = (counts[part] ?? 0) + items.length
    },
    tell,
  )
  await endReplacing(facts, counts['journal.entries'] ?? 0)
  return {}
}

class FileProblem extends Error {
  constructor(readonly problem: WorkspaceProblem) {
    super(problem.message)
  }
}

const ITEMS_AT_ONCE = 1_000

/** Reads a file from beginning to end; every item is checked, and handed on in batches in the order of the file. */
async function readFile(
  file: File,
  take: (part: WorkspacePart, items: unknown[]) => Promise<void>,
  tell: Task['tell'],
): Promise<{ facts: Partial<Record<WorkspaceFact, unknown>> }> {
  const checker = checkWorkspace(await headerOf(file))
  if ('problem' in checker) throw new FileProblem(checker.problem)
  const facts: Partial<Record<WorkspaceFact, unknown>> = {}
  let waiting: { part: WorkspacePart; items: unknown[] } | null = null
  const full: { part: WorkspacePart; items: unknown[] }[] = []
  const next = new Map<WorkspacePart, number>()
  const paths = [...workspaceFacts.map((fact) => `$.${fact}`), ...workspaceParts.map((part) => `$.${part}.*`)]
  await parse({
    file,
    paths,
    onValue: (path, value) => {
      const fact = workspaceFacts.find((one) => one === path)
      if (fact !== undefined) {
        facts[fact] = value
        refuse(checker.fact(fact, value))
        return
      }
      const part = workspaceParts.find((one) => path.startsWith(`${one}.`))
      if (part === undefined) return
      const at = next.get(part) ?? 0
      next.set(part, at + 1)
      const item = checkedItem(checker, part, at, value)
      if (waiting !== null && (waiting.part !== part || waiting.items.length >= ITEMS_AT_ONCE)) {
        full.push(waiting)
        waiting = null
      }
      waiting ??= { part, items: [] }
      waiting.items.push(item)
    },
    afterChunk: async (share) => {
      for (const { part, items } of full.splice(0)) await take(part, items)
      tell(share)
    },
  })
  refuse(checker.finish())
  if (waiting !== null) full.push(waiting)
  for (const { part, items } of full) await take(part, items)
  return { facts }
}

function checkedItem(checker: WorkspaceChecker, part: WorkspacePart, at: number, value: unknown): unknown {
  const checked = checker.item(part, at, value)
  if (!checked.ok) throw new FileProblem(checked.problem)
  return checked.item
}

function refuse(problem: WorkspaceProblem | null): void {
  if (problem !== null) throw new FileProblem(problem)
}

/** Format and version, which stand first in every file that Ask Box wrote; the reading ends as soon as both are known. */
async function headerOf(file: File): Promise<{ format?: unknown; version?: unknown }> {
  const header: { format?: unknown; version?: unknown } = {}
  await parse({
    file,
    paths: ['$.format', '$.version'],
    onValue: (path, value) => void (header[path as 'format'] = value),
    afterChunk: async () => {},
    isEnough: () => 'format' in header && 'version' in header,
  })
  return header
}

/**
 * Feeds a file to the parser chunk by chunk.
 *
 * @param onValue called with the path below the root, `sites.3`, and the value, for each of the wanted paths
 * @param afterChunk called after each chunk with the share that was read, and waited for
 */
async function parse({
  file,
  paths,
  onValue,
  afterChunk,
  isEnough = () => false,
}: {
  file: File
  paths: string[]
  onValue: (path: string, value: unknown) => void
  afterChunk: (share: number) => Promise<void>
  isEnough?: () => boolean
}): Promise<void> {
  const parser = new JSONParser({ paths, keepStack: false })
  let failure: unknown = null
  // What a callback throws would be taken for a fault of the text.
  parser.onValue = ({ value, key, stack }) => {
    if (failure !== null) return
    try {
      onValue([...stack.slice(1).map((one) => one.key), key].join('.'), value)
    } catch (error) {
      failure = error
    }
  }
  parser.onError = (error) => {
    failure ??= new FileProblem(notJson(error))
  }
  const reader = file.stream().getReader()
  const decoder = new TextDecoder('utf-8', { fatal: true })
  let read = 0
  for (;;) {
    const { value, done } = await reader.read()
    try {
      if (value !== undefined) parser.write(decoder.decode(value, { stream: true }))
      if (done) {
        decoder.decode()
        if (!parser.isEnded) parser.end()
      }
    } catch (error) {
      failure ??= new FileProblem(notJson(error))
    }
    if (failure !== null) {
      await reader.cancel().catch(() => {})
      throw failure
    }
    read += value?.length ?? 0
    await afterChunk(read / Math.max(1, file.size))
    if (isEnough()) {
      await reader.cancel().catch(() => {})
      return
    }
    if (done) return
  }
}
