/** A workspace as the JSON that an older file holds. */
type Json = Record<string, unknown>

/**
 * What older files lack, put in step by step: `migrations[2]` turns version 2 into version 3. Each works on plain JSON as
 * it was then, is never changed once released, and leaves alone what it does not understand: the schema judges the result.
 */
export const migrations: Record<number, (workspace: Json) => Json> = {}
