import { serve } from '@hono/node-server'
import { Hono } from 'hono'
import Database from 'libsql'

/**
 * What the receiver is measured against: a bare Hono route that parses the same form and writes one row to
 * the same kind of database with the same sync setting, one commit a request. `node bare.ts <file> <port>`.
 */
const [file = '', port = '0'] = process.argv.slice(2)
const database = new Database(file)
database.exec('PRAGMA locking_mode = EXCLUSIVE; PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL;')
database.exec('CREATE TABLE rows (n INTEGER PRIMARY KEY, email TEXT, name TEXT)')
const insert = database.prepare('INSERT INTO rows (email, name) VALUES (?, ?)')

const app = new Hono()
app.post('/join/:spot', async (c) => {
  const form = await c.req.parseBody()
  insert.run([String(form.email), String(form['first-name'] ?? '')])
  return c.json({ outcome: 'joined' })
})
serve({ fetch: app.fetch, port: Number(port), hostname: '127.0.0.1' }, ({ port }) =>
  console.log(`ready http://127.0.0.1:${port}`),
)
