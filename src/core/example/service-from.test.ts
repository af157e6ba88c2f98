import { neededOf, serviceFrom, understand } from '.'

const made = (text: string) => {
  const understood = understand(text)
  if (!understood.ok) throw new Error(understood.message)
  const service = serviceFrom({ name: '', origin: '', requests: neededOf(understood.requests), readings: {} })
  if (!service.ok) throw new Error(service.problem)
  return { steps: understood.requests.map(({ step }) => step), ...service.service }
}

/* Ways in which documentation may be written; all invented. */
test('a key behind two words in its header; the person within an object; whether to ask', () => {
  const { key, requests, confirms } = made(`curl https://api.fern.example/2/lists -H "Authorization: Door word=abc123"
curl https://api.fern.example/2/lists/5f2a/readers -H "Authorization: Door word=abc123" -H "Content-Type: application/json" -d '{"reader":{"email":"ada@mail.example","given_name":"Ada","state":"reading"},"ask_first":true}'`)
  expect(key).toMatchObject({ way: 'header', name: 'Authorization', prefix: 'Door word=' })
  expect(requests.put).toMatchObject({
    address: '/lists/{list}/readers',
    json: { reader: { email: '{email}', state: 'reading', '...': '{fields}' }, ask_first: '{asks}' },
  })
  expect(confirms).toBe(true)
})

test('everything is posted, with the key in the body', () => {
  const { steps, key, requests } = made(`POST https://brook.example/do/join
Content-Type: application/json

{"brook_key": "YOUR_KEY", "address": "ada@mail.example", "list": 3, "called": "Ada"}

POST https://brook.example/do/lists
Content-Type: application/json

{"brook_key": "YOUR_KEY"}`)
  expect(steps).toEqual(['put', 'lists'])
  expect(key).toMatchObject({ way: 'form', name: 'brook_key' })
  expect(requests.put.json).toEqual({ address: '{email}', list: '{listNumber}', '...': '{fields}' })
  expect(requests.lists.json).toEqual({})
})

test('putting somebody on a list is a request of its own; a body with what is to be put in without quotes', () => {
  const { steps, requests } = made(`curl -H "Moor-Key: 1" https://moor.example/lists
curl -X POST -H "Moor-Key: 1" https://moor.example/readers -d '{"reader":{"email":"ada@mail.example","given":"Ada","answers":[{"question":"1","answer":"x"}]}}'
curl -X POST -H "Moor-Key: 1" https://moor.example/seats -d '{"list":2,"seat":{"who":{reader_id},"since":1}}'
curl "https://moor.example/readers?email=ada@mail.example" -H "Moor-Key: 1"`)
  expect(steps).toEqual(['lists', 'put', 'join', 'find'])
  // A field that stands by itself is filled by itself, where the others have a place.
  expect(requests.put.json).toEqual({
    reader: {
      email: '{email}',
      given: '{fields.given}',
      answers: [{ each: 'fields', as: { question: '{key}', answer: '{value}' } }],
    },
  })
  expect(requests.join?.json).toEqual({ list: '{listNumber}', seat: { who: '{id}', since: 1 } })
})

test('a part of the host is asked of the owner; how many a page holds is no number of a page', () => {
  const { base, asks, requests } =
    made(`curl "https://YOUR_HARBOUR.heron.example/v1/bulletins?per_page=20&page=1" -u "$HERON_KEY:"
curl -X PUT "https://YOUR_HARBOUR.heron.example/v1/bulletins/BULLETIN_ID/readers/ada@mail.example" -u "$HERON_KEY:" --json '{"answers":{"given":"Ada"},"marks":["a"]}'`)
  expect({ base, asks }).toMatchObject({ base: 'https://{harbour}.heron.example/v1', asks: [{ name: 'harbour' }] })
  expect(requests.lists.query).toEqual([
    { name: 'per_page', value: '20' },
    { name: 'page', value: '{page}' },
  ])
  expect(requests.put.json).toEqual({ answers: '{fields}', marks: '{tags}' })
})

test('a request that takes several people takes one', () => {
  const { key, requests } = made(`GET https://plover.example/rest/bulletins?door_key=XXXX

POST https://plover.example/rest/bulletins/42/people?door_key=XXXX
Content-Type: application/json

[{"email":"ada@mail.example","details":{"given":"Ada"}}]`)
  expect(requests.put).toMatchObject({
    address: '/bulletins/{list}/people',
    json: [{ email: '{email}', details: '{fields}' }],
  })
  expect(key).toMatchObject({ way: 'query', name: 'door_key' })
})

test('a form with fields in brackets, a secret, and a number that is no field', () => {
  const { requests } = made(`$ curl -X POST https://gull.example/readers \\
    -d "address=ada@mail.example" -d "answers[given]=Ada" -d "town=X" -d "desk_id=99" -d "gull_secret=SECRET"
$ curl https://gull.example/lists?gull_secret=SECRET`)
  expect(requests.put.form).toEqual([
    { name: 'address', value: '{email}' },
    { name: 'answers[{key}]', value: '{value}', each: 'fields' },
    { name: 'town', value: '{fields.town}' },
    { name: 'desk_id', value: '99' },
  ])
})
