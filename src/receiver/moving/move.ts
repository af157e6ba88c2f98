import { complain } from '../log'
import type { RawAsk, RawDatabase, TableShape } from '../store'

/** How far a move is. */
export interface MoveProgress {
  doing: 'copying' | 'catching up' | 'comparing' | 'switching'
  table: string
  rows: number
}

/** What two stores are not alike in, in words. */
export class NotAlike extends Error {}

const ROWS_A_PAGE = 500
/** Copied after in one round, some hundred milliseconds. A round that is not full has caught up; the next is as short. */
const CHANGES_A_ROUND = 1_000
const MOST_ROUNDS = 10_000
const LOG = 'moved_rows'

const quoted = (name: string) => `"${name}"`
const listed = (names: readonly string[]) => names.map(quoted).join(', ')
const places = (count: number) => Array.from({ length: count }, () => '?').join(', ')

/** Tables whose content is moved as files, and those that tell of the database itself. */
const LEFT = new Set(['gift_files', 'gift_pieces', 'kysely_migration', 'kysely_migration_lock', LOG])

/**
 * Copies all tables of a store into another one that is empty, while the first goes on to be written: rows are copied page by
 * page, and what changes meanwhile is noted by triggers and copied after, again and again, until little is left.
 *
 * @param hold holds up writes to the first, has the last of it done, and lets them go on; see `SwitchableEngine`
 * @param leave says in the first that it is gone on with elsewhere, as the very last
 * @throws NotAlike where the two do not end up alike; the first is as it was
 */
export async function move(
  from: RawDatabase,
  to: RawDatabase,
  {
    hold,
    leave,
    told,
  }: {
    hold(last: () => Promise<void>): Promise<void>
    leave(): Promise<void>
    told(progress: MoveProgress): void
  },
): Promise<void> {
  const shapes = (await from.shapes()).filter(({ name }) => !LEFT.has(name))
  const there = new Map((await to.shapes()).map((shape) => [shape.name, shape]))
  for (const { name, columns } of shapes)
    if (columns.toSorted().join() !== there.get(name)?.columns.toSorted().join())
      throw new NotAlike(`The table ${name} is another there: bring both to the same version first.`)
  await mustBeAlone(from)
  await mustBeEmpty(to)
  await watch(from, shapes)
  try {
    for (const shape of shapes) await copyTable(from, to, shape, told)
    const state = { after: 0 }
    for (let round = 0; (await catchUp({ from, to, shapes }, state, told)) === CHANGES_A_ROUND; round++)
      if (round > MOST_ROUNDS) throw new NotAlike('More changes than can be copied. Try again when less is going on.')
    let compared = await compareMarks(from, to, 0, told)
    // What changed while marks were compared.
    while ((await catchUp({ from, to, shapes }, state, told)) === CHANGES_A_ROUND);
    await hold(async () => {
      told({ doing: 'switching', table: '', rows: 0 })
      while ((await catchUp({ from, to, shapes }, state, told)) > 0);
      compared = await compareMarks(from, to, compared, told)
      await compareNewest(from, to)
      await mustBeAlone(from)
      await leave()
    })
  } catch (error) {
    await unwatch(from, shapes)
    throw error
  }
  // It was moved, whatever is left there.
  await unwatch(from, shapes).catch(complain)
}

/** What another receiver took in after the last row was copied would be lost. */
async function mustBeAlone(from: RawDatabase): Promise<void> {
  if ((await from.others()) > 0)
    throw new NotAlike('Other receivers work with this database: stop all but this one first.')
}

async function mustBeEmpty(to: RawDatabase): Promise<void> {
  for (const table of ['journal', 'objects', 'members']) {
    const [row] = await to.read(`SELECT count(*) AS count FROM ${quoted(table)}`)
    if (Number(row!.count) > 0) throw new NotAlike('There is something there already. Give it an empty database.')
  }
  // What a receiver writes by itself at its first start.
  await to.write(async (ask) => {
    for (const { name } of (await to.shapes()).filter(({ name }) => !LEFT.has(name)))
      await ask(`DELETE FROM ${quoted(name)}`)
  })
}

/** Notes by their keys which rows are changed from now on. */
async function watch(from: RawDatabase, shapes: readonly TableShape[]): Promise<void> {
  await unwatch(from, shapes)
  await from.write(async (ask) => {
    if (from.kind === 'sqlite') {
      // They end with the connection, so that nothing is left of a process that was killed.
      await ask(`CREATE TEMP TABLE ${LOG} (id INTEGER PRIMARY KEY AUTOINCREMENT, tbl TEXT NOT NULL, key TEXT NOT NULL)`)
      for (const { name, key } of shapes)
        for (const [event, which] of EVENTS) {
          const notes = which.map(
            (row) =>
              `INSERT INTO ${LOG} (tbl, key) VALUES ('${name}', json_array(${key.map((one) => `${row}.${quoted(one)}`).join(', ')}));`,
          )
          await ask(
            `CREATE TEMP TRIGGER ${quoted(`move_${name}_${event}`)} AFTER ${event} ON main.${quoted(name)} BEGIN ${notes.join(' ')} END`,
          )
        }
      return
    }
    await ask(`CREATE UNLOGGED TABLE ${LOG} (id BIGSERIAL PRIMARY KEY, tbl TEXT NOT NULL, key TEXT NOT NULL)`)
    for (const { name, key } of shapes) {
      const note = (row: string) =>
        `INSERT INTO ${LOG} (tbl, key) VALUES ('${name}', json_build_array(${key.map((one) => `${row}.${quoted(one)}`).join(', ')})::text);`
      await ask(
        `CREATE FUNCTION ${quoted(`move_${name}`)}() RETURNS trigger LANGUAGE plpgsql AS $move$ BEGIN IF TG_OP <> 'INSERT' THEN ${note('OLD')} END IF; IF TG_OP <> 'DELETE' THEN ${note('NEW')} END IF; RETURN NULL; END $move$`,
      )
      await ask(
        `CREATE TRIGGER ${quoted(`move_${name}`)} AFTER INSERT OR UPDATE OR DELETE ON ${quoted(name)} FOR EACH ROW EXECUTE FUNCTION ${quoted(`move_${name}`)}()`,
      )
    }
  })
}
const EVENTS = [
  ['INSERT', ['NEW']],
  ['UPDATE', ['OLD', 'NEW']],
  ['DELETE', ['OLD']],
] as const

async function unwatch(from: RawDatabase, shapes: readonly TableShape[]): Promise<void> {
  await from.write(async (ask) => {
    if (from.kind === 'sqlite') {
      for (const { name } of shapes)
        for (const [event] of EVENTS) await ask(`DROP TRIGGER IF EXISTS temp.${quoted(`move_${name}_${event}`)}`)
      await ask(`DROP TABLE IF EXISTS temp.${LOG}`)
      return
    }
    for (const { name } of shapes) await ask(`DROP FUNCTION IF EXISTS ${quoted(`move_${name}`)}() CASCADE`)
    await ask(`DROP TABLE IF EXISTS ${LOG}`)
  })
}

/** All rows in the order of their keys. One that was copied before, or that another stands in the way of, is noted by the triggers. */
async function copyTable(
  from: RawDatabase,
  to: RawDatabase,
  { name, columns, key }: TableShape,
  told: (progress: MoveProgress) => void,
): Promise<void> {
  let after: unknown[] | null = null
  for (let rows = 0; ;) {
    const where: string = after === null ? '' : `WHERE (${listed(key)}) > (${places(key.length)})`
    const page: Record<string, unknown>[] = await from.read(
      `SELECT ${listed(columns)} FROM ${quoted(name)} ${where} ORDER BY ${listed(key)} LIMIT ${ROWS_A_PAGE}`,
      after ?? [],
    )
    if (page.length === 0) return
    await to.write((ask) => insert(ask, name, columns, page))
    after = key.map((one) => page.at(-1)![one])
    rows += page.length
    told({ doing: 'copying', table: name, rows })
    // What was added since the triggers were there is noted by them: nobody runs after the end of a table.
    if (page.length < ROWS_A_PAGE) return
  }
}

async function insert(
  ask: RawAsk,
  name: string,
  columns: readonly string[],
  rows: readonly Record<string, unknown>[],
): Promise<void> {
  if (rows.length === 0) return
  const each = `(${places(columns.length)})`
  await ask(
    `INSERT INTO ${quoted(name)} (${listed(columns)}) VALUES ${rows.map(() => each).join(', ')} ON CONFLICT DO NOTHING`,
    rows.flatMap((row) => columns.map((column) => row[column])),
  )
}

/** Copies what was changed since, as it is now. Resolves with how many changes there were. */
async function catchUp(
  { from, to, shapes }: { from: RawDatabase; to: RawDatabase; shapes: readonly TableShape[] },
  state: { after: number },
  told: (progress: MoveProgress) => void,
): Promise<number> {
  const changes = await from.read(`SELECT id, tbl, key FROM ${LOG} WHERE id > ? ORDER BY id LIMIT ${CHANGES_A_ROUND}`, [
    state.after,
  ])
  if (changes.length === 0) return 0
  const now = new Map<TableShape, { keys: unknown[][]; rows: Record<string, unknown>[] }>()
  for (const shape of shapes) {
    const own = changes.filter(({ tbl }) => tbl === shape.name)
    const keys = [...new Set(own.map((change) => String(change.key)))].map((text) => JSON.parse(text) as unknown[])
    if (keys.length === 0) continue
    const rows: Record<string, unknown>[] = []
    for (let at = 0; at < keys.length; at += 100) {
      const some = keys.slice(at, at + 100)
      rows.push(
        ...(await from.read(
          `SELECT ${listed(shape.columns)} FROM ${quoted(shape.name)} WHERE ${some.map(() => isKey(shape)).join(' OR ')}`,
          some.flat(),
        )),
      )
    }
    now.set(shape, { keys, rows })
  }
  await to.write(async (ask) => {
    for (const [shape, { keys, rows }] of now) {
      for (let at = 0; at < keys.length; at += 100) {
        const some = keys.slice(at, at + 100)
        await ask(`DELETE FROM ${quoted(shape.name)} WHERE ${some.map(() => isKey(shape)).join(' OR ')}`, some.flat())
      }
      for (let at = 0; at < rows.length; at += ROWS_A_PAGE)
        await insert(ask, shape.name, shape.columns, rows.slice(at, at + ROWS_A_PAGE))
    }
  })
  state.after = Number(changes.at(-1)!.id)
  told({ doing: 'catching up', table: '', rows: state.after })
  return changes.length
}

const isKey = ({ key }: TableShape) => `(${key.map((one) => `${quoted(one)} = ?`).join(' AND ')})`

/** Holds the marks of both journals against each other, number by number. Resolves with the last that was compared. */
async function compareMarks(
  from: RawDatabase,
  to: RawDatabase,
  after: number,
  told: (progress: MoveProgress) => void,
): Promise<number> {
  for (let at = after; ;) {
    const ask = (side: RawDatabase) =>
      side.read('SELECT n, mark FROM journal WHERE n > ? ORDER BY n LIMIT 5000', [at]) as Promise<
        { n: number; mark: string }[]
      >
    const [here, there] = [await ask(from), await ask(to)]
    // The first may have gone on since the last catching up.
    for (const [place, { n, mark }] of there.entries())
      if (Number(here[place]?.n) !== Number(n) || here[place]?.mark !== mark)
        throw new NotAlike(`The journals have different marks at ${n}.`)
    if (there.length === 0) return at
    at = Number(there.at(-1)!.n)
    told({ doing: 'comparing', table: 'journal', rows: at })
  }
}

/** While nothing is written: both end alike, and hold as many of what is few. */
async function compareNewest(from: RawDatabase, to: RawDatabase): Promise<void> {
  for (const sql of [
    'SELECT n, mark FROM journal ORDER BY n DESC LIMIT 1',
    'SELECT revision AS n, mark FROM changes ORDER BY revision DESC LIMIT 1',
    'SELECT count(*) AS n FROM objects',
    'SELECT count(*) AS n FROM single_values',
  ]) {
    const [[here], [there]] = [await from.read(sql), await to.read(sql)]
    if (Number(here?.n ?? 0) !== Number(there?.n ?? 0) || here?.mark !== there?.mark)
      throw new NotAlike(
        `They do not end alike (${sql}): ${Number(here?.n ?? 0)} here, ${Number(there?.n ?? 0)} there.`,
      )
  }
}
