/** By which each run of the tests chooses parts of what is too much for all of it: printed by `npm test`, which takes it from `ASKBOX_SEED` again. */
export const seed = Number(process.env.ASKBOX_SEED ?? 0)

/** Whether something at a place belongs to this run, of so many parts that all of it is told into. */
export const isOfThisRun = (at: number, parts: number): boolean => at % parts === seed % parts
