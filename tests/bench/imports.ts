import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'
import Papa from 'papaparse'
import {
  type FileShape,
  type ImportPlan,
  matchColumns,
  readerOf,
  rowJudge,
  SeenAddresses,
  separatorOf,
  Survey,
} from '#core/import'
import { MAX_CHUNK } from '#core/journal'
import type { RunningBox } from '../programs'
import { messyFile } from '../e2e/messy-file'
import { load } from './load'

setFlagsFromString('--expose-gc')
const collectGarbage = runInNewContext('gc') as () => void
const PIECE = 512 * 1024
const LIST = 'membersletter'

/** Reads and judges a file against an empty list, as the worker does; resolves with how many rows there were. */
function dryRun(text: string, looked = () => {}): number {
  const shape: FileShape = {
    format: 'csv',
    separator: separatorOf(text.slice(0, 10_000)),
    head: { skip: 0, hasHead: true },
  }
  const reader = readerOf(shape)
  const columns = [{ key: 'first-name', label: 'First name' }]
  const seen = new SeenAddresses()
  const against = {
    columns,
    withAddress: () => null,
    isErased: () => false,
    countedLine: (compared: string, line: number) => seen.see(compared, line),
  }
  let judge: ReturnType<typeof rowJudge> | null = null
  let count = 0
  for (let at = 0; at < text.length; at += PIECE) {
    const isLast = at + PIECE >= text.length
    const rows = reader.push(text.slice(at, at + PIECE))
    if (isLast) rows.push(...reader.end())
    if (judge === null) {
      const survey = new Survey()
      for (const row of rows) survey.take(row)
      const tallies = survey.tallies(reader.columns.length)
      const targets = matchColumns({
        fileColumns: reader.columns,
        sample: rows.slice(0, 500),
        tallies,
        columns,
        format: 'csv',
      })
      judge = rowJudge({ targets, known: 'fill', tags: [], status: 'confirmed' } satisfies ImportPlan, against)
    }
    for (const row of rows) if (judge(row).line > 0) count += 1
    if (isLast || (at / PIECE) % 40 === 0) looked()
  }
  return count
}

/** How much longer a dry run takes than the CSV package alone, both in this process; and the memory of one, in MB. */
export function measureDryRun(rows: number, manyRows: number): { ratio: number; perSecond: number; megabytes: number } {
  const text = messyFile(rows)
  dryRun(text)
  const ratios: number[] = []
  let perSecond = 0
  for (let round = 0; round < 5; round += 1) {
    const start = performance.now()
    Papa.parse(text, { delimiter: ';' })
    const alone = performance.now() - start
    const begun = performance.now()
    dryRun(text)
    const whole = performance.now() - begun
    ratios.push(whole / alone)
    perSecond = Math.max(perSecond, (rows / whole) * 1000)
  }
  ratios.sort((one, other) => one - other)
  const many = messyFile(manyRows)
  collectGarbage()
  const before = process.memoryUsage()
  let most = 0
  dryRun(many, () => {
    collectGarbage()
    const now = process.memoryUsage()
    most = Math.max(most, now.heapUsed - before.heapUsed + now.arrayBuffers - before.arrayBuffers)
  })
  return { ratio: ratios[2]!, perSecond, megabytes: most / 1024 / 1024 }
}

/** Stages and applies an import while sign-ups go on, and compares them with those without. */
export async function measureImport(
  box: RunningBox,
  target: string,
  people: number,
): Promise<{ perSecond: number; busy: number; wait: number }> {
  const headers = { Authorization: `Bearer ${box.key}`, 'Content-Type': 'application/json' }
  const call = async (method: string, path: string, body?: unknown) => {
    const response = await fetch(`${box.workshop}/api${path}`, {
      method,
      headers,
      ...(body !== undefined && { body: JSON.stringify(body) }),
    })
    if (!response.ok) throw new Error(await response.text())
    return (await response.json()) as { state: string; at: number }
  }
  const id = `bench${Date.now().toString(36)}`
  await call('POST', '/batches', {
    id,
    list: LIST,
    purpose: { kind: 'import', from: 'bench.csv', consent: 'A bench.' },
  })
  for (let from = 0; from < people; from += MAX_CHUNK)
    await call('PUT', `/batches/${id}/chunks/${from / MAX_CHUNK}`, {
      people: Array.from({ length: Math.min(MAX_CHUNK, people - from) }, (_, at) => ({
        member: `bench${from + at}`,
        revision: null,
        email: `bench.${(from + at).toString(36)}@people.example`,
        values: { 'first-name': `Name${at}` },
        tags: ['bench'],
        status: 'confirmed',
        joinedAt: null,
      })),
    })
  const calm = await load(target, { seconds: 5, connections: 20, rate: 200 })
  const start = performance.now()
  await call('POST', `/batches/${id}/apply`)
  let isDone = false
  let doneAfter = 0
  const waiting = (async () => {
    while ((await call('GET', `/batches/${id}`)).state !== 'done')
      await new Promise((resolve) => setTimeout(resolve, 50))
    doneAfter = performance.now() - start
    isDone = true
  })()
  const busy = await load(target, { seconds: 5, connections: 20, rate: 200 })
  if (isDone && doneAfter < 3_000) console.log('  (the import was over before the sign-ups beside it)')
  await waiting
  return {
    perSecond: (people / doneAfter) * 1000,
    busy: busy.perSecond / calm.perSecond,
    wait: busy.percentile(99) / calm.percentile(99),
  }
}
