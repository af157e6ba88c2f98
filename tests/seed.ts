/** By which a run of the tests chooses parts of what is too much for each: printed by `npm test`, which takes it from `ASKBOX_SEED` again. */
export const seed = Number(process.env.ASKBOX_SEED ?? 0)

/** `npm test`, `npm test -- --all`, `npm run endure`. */
type Run = 'short' | 'whole' | 'endure'

const run: Run = (['whole', 'endure'] as const).find((name) => name === process.env.ASKBOX_RUN) ?? 'short'

export const isWholeRun = run !== 'short'

/**
 * Whether something at a place belongs to this run, of so many parts that all of it is told into. A whole run has all,
 * unless that takes so long that it is told into parts too.
 */
export function isOfThisRun(at: number, parts: number, wholeParts = 1): boolean {
  const many = times({ short: parts, whole: wholeParts, endure: 1 })
  return at % many === seed % many
}

/** Of a table’s rows, those of this run. */
export const rowsOfThisRun = <Row>(rows: readonly Row[], parts: number): Row[] =>
  rows.filter((_, at) => isOfThisRun(at, parts))

/** How often something is done that is as good a test each time: killing a program at some moment, drawing an example. */
export const times = (many: Record<Run, number>): number => many[run]

/** Jest’s `test`, for tests of which each run has one in so many. */
export function oneTestIn(parts: number): (name: string, run: () => Promise<void>, timeout?: number) => void {
  let next = 0
  return (name, run, timeout) => {
    if (isOfThisRun(next++, parts)) test(name, run, timeout)
  }
}
