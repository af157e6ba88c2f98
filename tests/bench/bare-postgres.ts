import { serve } from '@hono/node-server'
import { Hono } from 'hono'
import { Pool } from 'pg'

/**
 * What receivers that share a PostgreSQL server are measured against: a bare Hono route that parses the same form and writes
 * one row with one commit a request over a pool. `node bare-postgres.ts <address> <port>`.
 */
const [connectionString = '', port = '0'] = process.argv.slice(2)
const pool = new Pool({ connectionString, max: 10 })
await pool.query('CREATE TABLE IF NOT EXISTS bare_rows (n BIGSERIAL PRIMARY KEY, email TEXT, name TEXT)')

const app = new Hono()
app.post('/join/:spot', async (c) => {
  const form = await c.req.parseBody()
  await pool.query({
    name: 'insert',
    text: 'INSERT INTO bare_rows (email, name) VALUES ($1, $2)',
    values: [String(form.email), String(form['first-name'] ?? '')],
  })
  return c.json({ outcome: 'joined' })
})
serve({ fetch: app.fetch, port: Number(port), hostname: '127.0.0.1' }, ({ port }) =>
  console.log(`ready http://127.0.0.1:${port}`),
)
