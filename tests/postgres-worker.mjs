import { parentPort } from 'node:worker_threads'
import { PGlite } from '@electric-sql/pglite'

/*
 * Databases of a PostgreSQL in this thread, by name, each in memory: the modules that it is made of cannot be loaded where
 * Jest runs tests. One that is opened again has what it had.
 */
const databases = new Map()
let template

async function open(name) {
  // Made once: a new one takes a second, and a copy of it a tenth.
  template ??= (await PGlite.create()).dumpDataDir('none')
  if (!databases.has(name)) databases.set(name, await PGlite.create({ loadDataDir: await template }))
  return databases.get(name)
}

parentPort.on('message', async ({ id, name, act, text, values }) => {
  try {
    const database = await open(name)
    if (act === 'listen') await database.listen(text, (told) => parentPort.postMessage({ name, channel: text, told }))
    const { rows = [], affectedRows = 0 } = act === 'query' ? await database.query(text, values) : {}
    parentPort.postMessage({ id, rows, changed: affectedRows })
  } catch (error) {
    parentPort.postMessage({ id, error: String(error?.message ?? error) })
  }
})
