import { Hono } from 'hono'
import type { DocumentedService } from './documented-service'
import { isEmail, Shelf, stretch } from './shelf'

const SIZE = 2

/** Takes forms, its key in the address, and says 200 to everything, with what came of it inside. */
export const owlCourier: DocumentedService = {
  name: 'Owl Courier',
  path: 'owl',
  key: ['owl-night-3381'],
  shelf: new Shelf([
    { id: '1', name: 'Night post' },
    { id: '2', name: 'Day post' },
    { id: '3', name: 'Owls only' },
  ]),
  routes(shelf) {
    const app = new Hono()
    const no = (why: string) => ({ result: 'error', why })
    app.use(async (c, next) =>
      c.req.query('api_token') === owlCourier.key[0] ? next() : c.json(no('We do not know this token.')),
    )
    app.get('/account.php', (c) => c.json({ result: 'ok', owner: 'Cloudberry Hill at Owl Courier' }))
    app.get('/lists.php', (c) => {
      const { items } = stretch(shelf.lists, (Number(c.req.query('page') ?? 1) - 1) * SIZE, SIZE)
      return c.json({
        result: 'ok',
        lists: items.map(({ id, name }) => ({ list_number: Number(id), list_name: name })),
      })
    })
    app.get('/subscriber.php', (c) => {
      const person = shelf.find(c.req.query('email') ?? '', c.req.query('list'))
      return c.json(
        person === undefined
          ? no('Nobody has this address.')
          : {
              result: 'ok',
              subscriber: {
                id: person.id,
                email: person.email,
                details: person.values,
                tags: [...person.tags].join(','),
              },
            },
      )
    })
    app.post('/subscribe.php', async (c) => {
      const form = await c.req.formData()
      const [list, email] = [String(form.get('list')), String(form.get('email'))]
      const details: Record<string, string> = {}
      for (const [name, value] of form.entries()) {
        const key = /^details\[(\w+)\]$/.exec(name)?.[1]
        if (key !== undefined) details[key] = String(value)
      }
      if (details.since !== undefined && details.since !== '' && !/^\d\d\/\d\d\/\d{4}$/.test(details.since))
        return c.json(no('A date looks so: 31/12/2026.'))
      if (shelf.list(list) === undefined || !isEmail(email)) return c.json(no('No such list, or no address.'))
      shelf.put(
        email,
        list,
        details,
        String(form.get('tags') ?? '')
          .split(',')
          .filter(Boolean),
      )
      return c.json({ result: 'ok' })
    })
    app.post('/unsubscribe.php', async (c) => {
      const form = await c.req.formData()
      const list = String(form.get('list'))
      return c.json(
        shelf.drop(shelf.find(String(form.get('email')), list), list)
          ? { result: 'ok' }
          : no('Nobody has this address.'),
      )
    })
    return app
  },
  help: (base) => `OWL COURIER: our interface on one page

who am I:      GET ${base}/account.php?api_token=YOUR_TOKEN
all lists:

GET ${base}/account.php?api_token=YOUR_TOKEN

GET ${base}/lists.php?api_token=YOUR_TOKEN&page=1

look somebody up:

GET ${base}/subscriber.php?api_token=YOUR_TOKEN&list=1&email=ada%40mail.example

put somebody on a list (dates look so: 31/12/2026):

curl '${base}/subscribe.php?api_token=YOUR_TOKEN' \\
  -d list=1 -d email=ada@mail.example -d 'details[first]=Ada' -d 'details[since]=31/12/2026' -d tags=night,owl

take somebody off:

curl '${base}/unsubscribe.php?api_token=YOUR_TOKEN' -d list=1 -d email=ada@mail.example
`,
}
