import { createWriteStream, existsSync, readdirSync } from 'node:fs'
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { once } from 'node:events'
import type { HandOver } from '#core/connection'
import { factColumns, peopleWriter } from '#core/export'
import type { List, Member } from '#core/list'
import type { HandedOn } from '#core/proof'
import { hasPassed } from '../clock'
import { type Ledger } from '../ledger'
import { TABLE_WRITTEN } from './handing'
import { newId } from '../random'

const MINUTE_MS = 60_000
const PAGE = 1_000

const writtenName = (id: string) => `${TABLE_WRITTEN}${id}`

/**
 * Writes the tables that are due: each list that is handed on as a file, whole. Who reads one meanwhile has the one
 * before or the new one, for it takes its name only when it is done.
 *
 * @returns how many were written
 */
export async function writeTables(ledger: Ledger, folder: string, now: () => number): Promise<number> {
  const published = ledger.published()
  let written = 0
  for (const handOver of published.handOvers()) {
    const way = published.connection(handOver.connection)?.way
    if (way?.kind !== 'file') continue
    const last = Number((await ledger.values.value(writtenName(handOver.id))) ?? 0)
    // Somebody was erased since: a table that is paused is written anew as well, if it is there.
    const isStale = last === 0 && hasTable(folder, handOver.list)
    if (handOver.isPaused && !isStale) continue
    if (!hasPassed(last, way.everyMinutes * MINUTE_MS, now())) continue
    await writeTable(ledger, handOver, folder)
    await ledger.values.keep(writtenName(handOver.id), now())
    written += 1
  }
  return written
}

/** What the table of a list is called: by its name as far as any file system takes it, and by its id. */
export function tableName(listName: string, id: string): string {
  const words = listName
    .normalize('NFKD')
    .replaceAll(/[^a-zA-Z0-9]+/g, '-')
    .slice(0, 60)
  return `${words}-${id}.csv`
}

/** Tables of a list, also by a name that it had before. */
const tablesOf = (folder: string, id: string) =>
  existsSync(folder) ? readdirSync(folder).filter((name) => name.endsWith(`-${id}.csv`)) : []
const hasTable = (folder: string, id: string) => tablesOf(folder, id).length > 0

/** Writes a made-up person into a table of their own, as the list's is written, and reads it again. */
export async function rehearseTable(
  member: Member,
  { list: id }: HandOver,
  ledger: Ledger,
  folder: string,
): Promise<Omit<HandedOn, 'name'>> {
  const failed = (said: string) => ({ outcome: 'failed' as const, why: 'table', said })
  const list = ledger.published().list(id)
  if (list === null) return failed('The list is not there any more.')
  const writer = tableWriter(list)
  const file = join(folder, `rehearsal-${newId<string>()}.csv.part`)
  const text = `${writer.start}${writer.piece([{ ...member, status: 'confirmed' }])}`
  try {
    await mkdir(folder, { recursive: true, mode: 0o700 })
    await writeFile(file, text, { mode: 0o600 })
    const read = await readFile(file, 'utf8')
    if (read !== text || !read.includes(member.email.typed))
      return failed('The table was written, and reads otherwise.')
    return { outcome: 'seen', why: '', said: 'Written into a table as the list’s is, read again, and taken away.' }
  } catch (error) {
    return failed(error instanceof Error ? error.message : String(error))
  } finally {
    await rm(file, { force: true })
  }
}

const tableWriter = (list: List) =>
  peopleWriter('csv', [...list.columns, ...factColumns.filter(({ key }) => key !== ':receipt' && key !== ':spot')])

async function writeTable(ledger: Ledger, { list: id }: HandOver, folder: string): Promise<void> {
  const list = ledger.published().list(id)
  if (list === null) return
  await mkdir(folder, { recursive: true, mode: 0o700 })
  const file = join(folder, tableName(list.name, id))
  const part = `${file}.part`
  const writer = tableWriter(list)
  const stream = createWriteStream(part, { mode: 0o600 })
  try {
    stream.write(writer.start)
    for (let rank = 0; ;) {
      const page = await ledger.handOvers.membersAfter(id, rank, PAGE)
      const last = page.at(-1)
      if (last === undefined) break
      if (!stream.write(writer.piece(page.map(({ member }) => member)))) await once(stream, 'drain')
      rank = last.rank
    }
    stream.end()
    await once(stream, 'close')
    await rename(part, file)
    for (const name of tablesOf(folder, id))
      if (join(folder, name) !== file) await rm(join(folder, name), { force: true })
  } catch (error) {
    stream.destroy()
    await rm(part, { force: true })
    throw error
  }
}
