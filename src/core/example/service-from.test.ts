import { neededOf, serviceFrom, understand } from '.'

const put = (text: string) => {
  const understood = understand(text)
  if (!understood.ok) throw new Error(understood.message)
  const made = serviceFrom({ name: '', origin: '', requests: neededOf(understood.requests), readings: {} })
  if (!made.ok) throw new Error(made.problem)
  return { steps: understood.requests.map(({ step }) => step), ...made.service }
}

/* Styles in which documentation of list services is written; all invented. Common practice, without a source. */
test('a key behind two words in its header; the person within an object; whether to ask', () => {
  const made = put(`curl https://api.fern.example/2/lists -H "Authorization: Token token=abc123"
curl https://api.fern.example/2/lists/5f2a/subscribers -H "Authorization: Token token=abc123" -H "Content-Type: application/json" -d '{"subscriber":{"email":"ada@mail.example","first_name":"Ada","status":"subscribed"},"double_optin":true}'`)
  expect(made.key).toMatchObject({ way: 'header', name: 'Authorization', prefix: 'Token token=' })
  expect(made.requests.put).toMatchObject({
    address: '/lists/{list}/subscribers',
    json: { subscriber: { email: '{email}', status: 'subscribed', '...': '{fields}' }, double_optin: '{asks}' },
  })
  expect(made.confirms).toBe(true)
})

test('everything is posted, with the key in the body', () => {
  const made = put(`POST https://brook.example/api/subscribe
Content-Type: application/json

{"api_key": "YOUR_KEY", "email": "ada@mail.example", "list_id": 3, "name": "Ada"}

POST https://brook.example/api/lists
Content-Type: application/json

{"api_key": "YOUR_KEY"}`)
  expect(made.steps).toEqual(['put', 'lists'])
  expect(made.key).toMatchObject({ way: 'form', name: 'api_key' })
  expect(made.requests.put.json).toEqual({ email: '{email}', list_id: '{listNumber}', '...': '{fields}' })
  expect(made.requests.lists.json).toEqual({})
})

test('putting somebody on a list is a request of its own; a body with what is to be put in without quotes', () => {
  const made = put(`curl -H "Api-Token: 1" https://moor.example/api/3/lists
curl -X POST -H "Api-Token: 1" https://moor.example/api/3/contacts -d '{"contact":{"email":"ada@mail.example","firstName":"Ada","fieldValues":[{"field":"1","value":"x"}]}}'
curl -X POST -H "Api-Token: 1" https://moor.example/api/3/contactLists -d '{"contactList":{"list":2,"contact":{contact_id},"status":1}}'
curl "https://moor.example/api/3/contacts?email=ada@mail.example" -H "Api-Token: 1"`)
  expect(made.steps).toEqual(['lists', 'put', 'join', 'find'])
  // A field that stands by itself is filled by itself, where the others have a place.
  expect(made.requests.put.json).toEqual({
    contact: {
      email: '{email}',
      firstName: '{fields.firstName}',
      fieldValues: [{ each: 'fields', as: { field: '{key}', value: '{value}' } }],
    },
  })
  expect(made.requests.join?.json).toEqual({ contactList: { list: '{listNumber}', contact: '{id}', status: 1 } })
})

test('a part of the host is asked of the owner; how many a page holds is no number of a page', () => {
  const made = put(`curl "https://YOUR_SUBDOMAIN.heron.example/v1/audiences?per_page=20&page=1" -u "$API_KEY:"
curl -X PUT "https://YOUR_SUBDOMAIN.heron.example/v1/audiences/AUDIENCE_ID/members/ada@mail.example" -u "$API_KEY:" --json '{"attributes":{"FNAME":"Ada"},"tags":["a"]}'`)
  expect(made).toMatchObject({ base: 'https://{subdomain}.heron.example/v1', asks: [{ name: 'subdomain' }] })
  expect(made.requests.lists.query).toEqual([
    { name: 'per_page', value: '20' },
    { name: 'page', value: '{page}' },
  ])
  expect(made.requests.put.json).toEqual({ attributes: '{fields}', tags: '{tags}' })
})

test('a request that takes several people takes one', () => {
  const made = put(`GET https://plover.example/rest/groups?access_token=XXXX

POST https://plover.example/rest/groups/42/receivers?access_token=XXXX
Content-Type: application/json

[{"email":"ada@mail.example","attributes":{"firstname":"Ada"}}]`)
  expect(made.requests.put).toMatchObject({
    address: '/groups/{list}/receivers',
    json: [{ email: '{email}', attributes: '{fields}' }],
  })
  expect(made.key).toMatchObject({ way: 'query', name: 'access_token' })
})

test('a form with fields in brackets, a secret, and a number that is no field', () => {
  const made = put(`$ curl -X POST https://gull.example/subscribers \\
    -d "email_address=ada@mail.example" -d "fields[first_name]=Ada" -d "town=X" -d "form_id=99" -d "api_secret=SECRET"
$ curl https://gull.example/lists?api_secret=SECRET`)
  expect(made.requests.put.form).toEqual([
    { name: 'email_address', value: '{email}' },
    { name: 'fields[{key}]', value: '{value}', each: 'fields' },
    { name: 'town', value: '{fields.town}' },
    { name: 'form_id', value: '99' },
  ])
})
