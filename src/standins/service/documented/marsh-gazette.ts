import { createHash } from 'node:crypto'
import { Hono } from 'hono'
import type { DocumentedService } from './documented-service'
import { isEmail, Shelf, type ShelfPerson, stretch } from './shelf'

const hashOf = (email: string) => createHash('md5').update(email.toLowerCase()).digest('hex')
const shown = ({ email, values, tags }: ShelfPerson) => ({
  hash: hashOf(email),
  address: email,
  standing: 'reading',
  answers: values,
  marks: [...tags].map((name) => ({ name })),
})
const SIZE = 2

/** Readers stand under a hash of their address, the key is a password, pages begin at an offset. */
export const marshGazette: DocumentedService = {
  name: 'Marsh Gazette',
  path: 'marsh',
  key: ['mg-5f1c2e77a0'],
  shelf: new Shelf([
    { id: 'b41', name: 'Weekly gazette' },
    { id: 'b57', name: 'Tide tables' },
    { id: 'b73', name: 'Bird counts' },
  ]),
  routes(shelf) {
    const app = new Hono()
    app.use(async (c, next) => {
      const [, encoded = ''] = /^Basic (.+)$/.exec(c.req.header('Authorization') ?? '') ?? []
      if (Buffer.from(encoded, 'base64').toString() !== `gazette:${marshGazette.key[0]}`)
        return c.json({ trouble: { number: 401, words: 'That key opens nothing here.' } }, 401)
      return next()
    })
    app.get('/1/account', (c) => c.json({ account: { company: 'Cloudberry Hill at Marsh Gazette', plan: 'reed' } }))
    app.get('/1/bulletins', (c) => {
      const { items } = stretch(shelf.lists, Number(c.req.query('offset') ?? 0), SIZE)
      return c.json({
        bulletins: items.map(({ id, name }) => ({ ref: { id }, title: name, readers: { total: shelf.on(id).length } })),
        all: shelf.lists.length,
      })
    })
    app.get('/1/bulletins/:list/questions', (c) =>
      c.json({
        questions: [
          { code: 'GIVEN', label: 'Given name', type: 'text', required: false },
          { code: 'TOWN', label: 'Town', type: 'text', required: false },
        ],
      }),
    )
    app.get('/1/bulletins/:list/readers/:hash', (c) => {
      const person = shelf.on(c.req.param('list')).find(({ email }) => hashOf(email) === c.req.param('hash'))
      return person === undefined
        ? c.json({ trouble: { number: 404, words: 'Nobody reads under this hash.' } }, 404)
        : c.json({ reader: shown(person) })
    })
    app.put('/1/bulletins/:list/readers/:hash', async (c) => {
      const list = c.req.param('list')
      const {
        address,
        answers = {},
        marks = [],
      } = await c.req.json<{ address?: string; answers?: Record<string, string>; marks?: { name: string }[] }>()
      if (shelf.list(list) === undefined)
        return c.json({ trouble: { number: 404, words: 'There is no such bulletin.' } }, 404)
      if (!isEmail(address) || hashOf(address) !== c.req.param('hash'))
        return c.json({ trouble: { number: 422, words: 'The hash is not that of the address.' } }, 422)
      return c.json({
        reader: shown(
          shelf.put(
            address,
            list,
            answers,
            marks.map(({ name }) => name),
          ),
        ),
      })
    })
    app.delete('/1/bulletins/:list/readers/:hash', (c) => {
      const list = c.req.param('list')
      const person = shelf.on(list).find(({ email }) => hashOf(email) === c.req.param('hash'))
      return shelf.drop(person, list)
        ? c.body(null, 204)
        : c.json({ trouble: { number: 404, words: 'Nobody reads under this hash.' } }, 404)
    })
    return app
  },
  help: (base) => `Working with the Marsh Gazette

Your key stands under Account > Keys. Send it as the password of the user gazette.

WHO AM I

    curl ${base}/1/account -u "gazette:YOUR_API_KEY"

YOUR BULLETINS
Two at a time. Begin further back with offset.

    curl "${base}/1/bulletins?offset=0" -u "gazette:YOUR_API_KEY"

WHAT A BULLETIN ASKS

    curl ${base}/1/bulletins/{bulletin_id}/questions -u "gazette:YOUR_API_KEY"

PUT A READER ON A BULLETIN
A reader stands under the MD5 of their address in small letters.

    curl -X PUT \\
      ${base}/1/bulletins/{bulletin_id}/readers/{reader_hash} \\
      --user 'gazette:YOUR_API_KEY' \\
      --header 'Content-Type: application/json' \\
      --data '{
        "address": "ada@mail.example",
        "answers": { "GIVEN": "Ada", "TOWN": "Reedmouth" },
        "marks": [ { "name": "spring" } ]
      }'

LOOK A READER UP

    curl ${base}/1/bulletins/{bulletin_id}/readers/{reader_hash} -u "gazette:YOUR_API_KEY"

TAKE A READER OFF

    curl -X DELETE ${base}/1/bulletins/{bulletin_id}/readers/{reader_hash} -u "gazette:YOUR_API_KEY"
`,
}
