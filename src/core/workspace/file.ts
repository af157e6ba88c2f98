import { emailIn, type Entry } from '#core/journal'
import { affectedMembers } from '#core/list'
import { type GiftPiece, giftPieceSchema } from '#core/mail'
import type { Picture } from '#core/picture'
import { type Body, keyOf, type Preferences } from '#core/sync'
import { migrations } from './migrations'
import type { WorkspaceProblem } from './problem'
import { checkReferences } from './references'
import {
  emptyWorkspace,
  partKinds,
  partOf,
  preferenceNames,
  storedSchema,
  type Workspace,
  type WorkspacePart,
  workspaceParts,
  WORKSPACE_FORMAT,
  WORKSPACE_VERSION,
  workspaceSchema,
} from './workspace'

/*
 * A workspace file is JSON, indented, so that people and version control can read it. Its lists can be longer than any
 * text a program can hold, so it is written and read item by item.
 */

/** Single values of a file, by their path in it. */
export type WorkspaceFact = 'exportedAt' | keyof Preferences | 'linkKeys' | 'linkKey' | 'journal.id'
export const workspaceFacts: readonly WorkspaceFact[] = [
  'exportedAt',
  ...preferenceNames,
  'linkKeys',
  'linkKey',
  'journal.id',
]

/** Where the items of each part come from, in batches. */
export type WorkspaceSource = {
  exportedAt: string
  preferences: Preferences | null
  journalId: string | null
  /** Sealed; null to leave them out. */
  linkKeys: string | null
  items(part: WorkspacePart): AsyncIterable<readonly unknown[]>
}

/** The text of a workspace file, piece by piece. */
export async function* writeWorkspaceFrom({
  exportedAt,
  preferences,
  journalId,
  linkKeys,
  items,
}: WorkspaceSource): AsyncGenerator<string> {
  const line = (depth: number, name: string, value: string) => `\n${' '.repeat(depth)}${JSON.stringify(name)}: ${value}`
  const facts = [
    line(1, 'format', JSON.stringify(WORKSPACE_FORMAT)),
    line(1, 'version', String(WORKSPACE_VERSION)),
    line(1, 'exportedAt', JSON.stringify(exportedAt)),
  ]
  yield `{${facts.join(',')}`
  for (const part of workspaceParts) {
    const isInJournal = part === 'journal.entries'
    if (isInJournal)
      for (const name of preferenceNames)
        if (preferences?.[name] !== undefined) yield `,${line(1, name, indented(preferences[name], 1))}`
    if (isInJournal && linkKeys !== null) yield `,${line(1, 'linkKeys', JSON.stringify(linkKeys))}`
    if (isInJournal) yield `,${line(1, 'journal', `{${line(2, 'id', JSON.stringify(journalId))}`)}`
    yield* list(isInJournal ? 2 : 1, isInJournal ? 'entries' : part, items(part))
    if (isInJournal) yield '\n }'
  }
  yield '\n}\n'

  async function* list(
    depth: number,
    name: string,
    batches: AsyncIterable<readonly unknown[]>,
  ): AsyncGenerator<string> {
    let isEmpty = true
    yield `,${line(depth, name, '[')}`
    for await (const batch of batches) {
      if (batch.length === 0) continue
      yield `${isEmpty ? '' : ','}${batch.map((item) => `\n${' '.repeat(depth + 1)}${indented(item, depth + 1)}`).join(',')}`
      isEmpty = false
    }
    yield isEmpty ? ']' : `\n${' '.repeat(depth)}]`
  }
}

/** The text of a workspace that is held whole. */
export function writeWorkspace(workspace: Workspace): string {
  return `${JSON.stringify(workspace, null, 1)}\n`
}

/** JSON, its further lines as far in as it stands. */
function indented(value: unknown, depth: number): string {
  return JSON.stringify(value, null, 1).replaceAll('\n', `\n${' '.repeat(depth)}`)
}

export type WorkspaceReading = { ok: true; workspace: Workspace } | { ok: false; problem: WorkspaceProblem }

/** Reads a workspace file that is held whole. Names the first problem and its place when there is one; never half a workspace. */
export function readWorkspace(text: string): WorkspaceReading {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch (error) {
    return { ok: false, problem: notJson(error) }
  }
  const file = (value ?? {}) as Record<string, unknown>
  const checker = checkWorkspace(file)
  if ('problem' in checker) return { ok: false, problem: checker.problem }
  const workspace: Record<string, unknown> = { ...emptyWorkspace('') }
  const journal = { id: null as unknown, entries: [] as unknown[] }
  for (const fact of workspaceFacts) {
    const fileValue = at(file, fact)
    if (fileValue === undefined) continue
    const problem = checker.fact(fact, fileValue)
    if (problem !== null) return { ok: false, problem }
    if (fact === 'journal.id') journal.id = fileValue
    else workspace[fact] = fileValue
  }
  for (const part of workspaceParts) {
    const items: unknown[] = []
    const list = at(file, part) ?? []
    if (!Array.isArray(list)) return { ok: false, problem: { code: 'damaged', path: part, message: 'must be a list' } }
    for (const [index, item] of list.entries()) {
      const checked = checker.item(part, index, item)
      if (!checked.ok) return checked
      items.push(checked.item)
    }
    if (part === 'journal.entries') journal.entries = items
    else workspace[part] = items
  }
  const problem = checker.finish()
  return problem === null ? { ok: true, workspace: { ...workspace, journal } as Workspace } : { ok: false, problem }
}

export interface WorkspaceChecker {
  /** One item as today's version has it, or what is wrong with it. Items of one part come in their order. */
  item(
    part: WorkspacePart,
    index: number,
    value: unknown,
  ): { ok: true; item: unknown } | { ok: false; problem: WorkspaceProblem }
  fact(fact: WorkspaceFact, value: unknown): WorkspaceProblem | null
  /** What only the whole can tell, once all items were seen. */
  finish(): WorkspaceProblem | null
}

/** Checks a workspace file item by item; keeps of it only what its parts refer to each other by. */
export function checkWorkspace({
  format,
  version,
}: {
  format?: unknown
  version?: unknown
}): WorkspaceChecker | { problem: WorkspaceProblem } {
  if (format !== WORKSPACE_FORMAT)
    return { problem: { code: 'not-a-workspace', path: 'format', message: 'This file is not an Ask Box workspace.' } }
  if (typeof version !== 'number' || !(version === WORKSPACE_VERSION || version in migrations)) {
    const isNewer = typeof version === 'number' && version > WORKSPACE_VERSION
    return {
      problem: isNewer
        ? {
            code: 'newer-version',
            path: 'version',
            message: `This file was made by a newer Ask Box (file version ${version}; this one reads up to ${WORKSPACE_VERSION}).`,
          }
        : { code: 'damaged', path: 'version', message: 'is no version of a workspace file' },
    }
  }
  /** All but the entries, and the bytes of pictures and gifts. */
  const references = emptyWorkspace('')
  const seen = new Map<string, Set<string>>()
  const addresses = new Map<string, string>()
  const addressOf = new Map<string, string>()
  let entries = 0
  let journalId: unknown = null
  let hasDate = false

  return {
    item(part, index, value) {
      const path = `${part}[${index}]`
      const parsed = schemaOf(part).safeParse(migratedItem(version, part, value))
      if (!parsed.success) {
        const [issue] = parsed.error.issues
        return {
          ok: false,
          problem: {
            code: 'damaged',
            path: pathOf(path, issue?.path ?? []),
            message: issue?.message ?? 'cannot be read',
          },
        }
      }
      const problem =
        part === 'journal.entries' ? entryProblem(parsed.data as Entry, path) : keep(part, parsed.data, path)
      return problem === null ? { ok: true, item: parsed.data } : { ok: false, problem }
    },
    fact(fact, value) {
      const { shape } = workspaceSchema
      const schema = fact === 'journal.id' ? shape.journal.shape.id : shape[fact]
      const parsed = schema.safeParse(value)
      if (!parsed.success)
        return { code: 'damaged', path: fact, message: parsed.error.issues[0]?.message ?? 'cannot be read' }
      if (fact === 'journal.id') journalId = value
      if (fact === 'exportedAt') hasDate = true
      return null
    },
    finish() {
      if (!hasDate) return { code: 'damaged', path: 'exportedAt', message: 'is missing' }
      if (entries > 0 && journalId === null)
        return { code: 'damaged', path: 'journal.id', message: 'must name the journal that the entries belong to' }
      return checkReferences(references)
    },
  }

  function keep(part: Exclude<WorkspacePart, 'journal.entries'>, item: unknown, path: string): WorkspaceProblem | null {
    const kind = partKinds.find((kind) => partOf(kind) === part)
    const name =
      kind !== undefined
        ? keyOf(kind, item as Body)
        : part === 'giftPieces'
          ? pieceName(item as GiftPiece)
          : (item as { id: string }).id
    const ids = seen.get(part) ?? new Set()
    if (ids.has(name)) return { code: 'duplicate', path, message: `“${name}” occurs a second time` }
    seen.set(part, ids.add(name))
    const list = references[part] as unknown[]
    list.push(part === 'pictures' || part === 'giftPieces' ? { ...(item as Picture | GiftPiece), bytes: '' } : item)
    return null
  }

  /** Numbers without gaps, and no address twice in one list. */
  function entryProblem(entry: Entry, path: string): WorkspaceProblem | null {
    entries += 1
    if (entry.n !== entries)
      return { code: 'journal-gap', path: `${path}.n`, message: `must be ${entries}: the journal has no gaps` }
    const isGone =
      entry.kind === 'members-erased' ||
      (entry.kind === 'members-changed' && entry.personal?.change.kind === 'withdraw')
    if (isGone) for (const one of affectedMembers(entry)) addresses.delete(addressOf.get(one) ?? '')
    const [member] = affectedMembers(entry)
    const email = emailIn(entry)
    if (member === undefined || email === null) return null
    const address = `${entry.list} ${email.compared}`
    const holder = addresses.get(address)
    if (holder !== undefined && holder !== member)
      return {
        code: 'duplicate',
        path: `${path}.personal.email`,
        message: `gives a second member of the list the address ${email.compared}`,
      }
    const before = addressOf.get(member)
    if (before !== undefined) addresses.delete(before)
    addresses.set(address, member)
    addressOf.set(member, address)
    return null
  }
}

export function notJson(error: unknown): WorkspaceProblem {
  return {
    code: 'not-json',
    path: '',
    message: `This is not JSON: ${error instanceof Error ? error.message : 'it cannot be read'}.`,
  }
}

function pieceName({ file, at, of }: GiftPiece): string {
  return `piece ${at + 1} of ${of} of ${file}`
}

function schemaOf(part: WorkspacePart) {
  const { shape } = workspaceSchema
  if (part === 'journal.entries') return shape.journal.shape.entries.element
  if (part === 'giftPieces') return giftPieceSchema
  if (part === 'commands') return shape.commands.element
  return storedSchema(partKinds.find((kind) => partOf(kind) === part)!)
}

/** An item of a file of an older version as it would be today. */
function migratedItem(from: number, part: WorkspacePart, value: unknown): unknown {
  if (value === null || typeof value !== 'object') return value
  let item = value as Record<string, unknown>
  for (let version = from; version < WORKSPACE_VERSION; version++) item = migrations[version]?.[part]?.(item) ?? item
  return item
}

/** The value at a path with at most one dot. */
function at(file: Record<string, unknown>, path: string): unknown {
  const [first = '', second] = path.split('.')
  const value = Object.hasOwn(file, first) ? file[first] : undefined
  return second === undefined
    ? value
    : value !== null && typeof value === 'object'
      ? (value as Record<string, unknown>)[second]
      : undefined
}

function pathOf(start: string, keys: readonly PropertyKey[]): string {
  return start + keys.map((key) => (typeof key === 'number' ? `[${key}]` : `.${String(key)}`)).join('')
}
