import { execFile } from 'node:child_process'
import { createServer, type IncomingMessage } from 'node:http'
import type { AddressInfo } from 'node:net'
import { promisify } from 'node:util'
import { type ExampleRequest, readExamples } from '.'

/*
 * What was read is compared with what the real program sends: Debian's `curl`, run by a shell, to a server that records.
 * Command lines are written in the styles that documentation uses.
 */

interface Recorded {
  method: string
  target: string
  headers: IncomingMessage['headers']
  body: string
}

let recorded: Recorded | null = null
const server = createServer((request, response) => {
  const chunks: Buffer[] = []
  request.on('data', (chunk: Buffer) => chunks.push(chunk))
  request.on('end', () => {
    const { method = '', url = '', headers } = request
    recorded = { method, target: url, headers, body: Buffer.concat(chunks).toString('utf8') }
    response.end('{}')
  })
})
let base = ''
beforeAll(async () => {
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
})
afterAll(() => server.close())

const json = `-H 'Content-Type: application/json'`
const commands = [
  `curl BASE/lists`,
  `curl "BASE/lists"`,
  `curl 'BASE/lists?page=2&size=10'`,
  `curl -s BASE/lists | cat`,
  `curl --silent --show-error --location BASE/me`,
  `curl -X GET BASE/lists -H "Authorization: Bearer abc123"`,
  `curl -XGET BASE/lists`,
  `curl --request GET --url BASE/lists --header 'accept: application/json'`,
  `curl BASE/lists \\\n  -H "Authorization: Bearer abc123" \\\n  -H "Accept: application/json"`,
  `curl \\\n  --header 'X-Api-Key: k-1' \\\n  'BASE/lists/7/people'`,
  `curl -u abc123: BASE/lists`,
  `curl -u 'anystring:abc123' BASE/lists`,
  `curl --user name:secret BASE/account`,
  `curl -u name:se:cret BASE/account`,
  `curl BASE/people -d email=ada@mail.example`,
  `curl BASE/people -d email=ada@mail.example -d name=Ada`,
  `curl BASE/people -d "email=ada@mail.example&name=Ada%20Lindqvist"`,
  `curl -X POST BASE/people --data 'email=ada%40mail.example'`,
  `curl BASE/people --data-urlencode email=ada+new@mail.example --data-urlencode "name=Ada & Co"`,
  `curl BASE/people --data-urlencode '=a b&c' `,
  `curl BASE/people --data-urlencode 'plain text'`,
  `curl -G BASE/people -d email=ada@mail.example`,
  `curl --get BASE/people --data-urlencode "email=ada+x@mail.example" -d list=7`,
  `curl -G 'BASE/people?size=2' -d page=3`,
  `curl BASE/people --url-query "email=ada@mail.example"`,
  `curl BASE/people --json '{"email": "ada@mail.example"}'`,
  `curl BASE/people --json '{"email":' --json '"ada@mail.example"}'`,
  `curl -X PUT BASE/people/7 ${json} -d '{"email":"ada@mail.example","tags":["a","b"]}'`,
  `curl -X POST BASE/people ${json} --data-raw '{"email":"ada@mail.example"}'`,
  `curl -X POST BASE/people ${json} --data-binary '{"email":"ada@mail.example"}'`,
  `curl -X POST "BASE/people" \\\n  ${json} \\\n  -d '{\n    "email": "ada@mail.example",\n    "fields": { "first": "Ada" }\n  }'`,
  `curl -X POST BASE/people ${json} -d "{\\"email\\": \\"ada@mail.example\\"}"`,
  `curl -X POST BASE/people ${json} -d '{"name":"it'\\''s Ada"}'`,
  `curl -X POST BASE/people ${json} -d '{"name":"it'"'"'s Ada"}'`,
  `curl -X PATCH BASE/people/7 ${json} -d '{"status":"left"}'`,
  `curl -X DELETE BASE/lists/7/people/ada%40mail.example`,
  `curl --request DELETE --user key: BASE/people/7`,
  `curl -iX DELETE BASE/people/7`,
  `curl -sSX POST BASE/people -demail=a@mail.example`,
  `curl -s -o /dev/null -w '%{http_code}' BASE/lists`,
  `curl -m 10 --connect-timeout 5 --retry 2 BASE/lists`,
  `curl -k -L -v BASE/lists 2>/dev/null`,
  `curl -H 'X-Key: one' -H 'X-Secret: two' BASE/lists`,
  `curl -H "X-Note: a: b: c" BASE/lists`,
  `curl -A 'my agent/1.0' BASE/lists`,
  `curl -e https://site.example/ BASE/lists`,
  `curl --oauth2-bearer tok-1 BASE/lists`,
  `curl -H 'Authorization: Basic YTpi' BASE/lists`,
  `curl BASE/lists?a=1`,
  `curl BASE/lists#part`,
  `curl 'BASE/lists/ä'`,
  `curl "BASE/people/$EXAMPLE_ID"`,
  `curl -d 'a=1' BASE/one -X PUT`,
  `curl -d '' BASE/empty -X POST`,
  `curl -X POST BASE/empty`,
  `curl -d "name=Ada" BASE/people -H "Content-Type: application/x-www-form-urlencoded"`,
  `curl -F email=ada@mail.example -F 'tags[]=a' -F 'tags[]=b' BASE/form`,
  `curl --form-string 'email=ada@mail.example' BASE/form`,
  `curl -d 'tags[]=a&tags[]=b&fields[first]=Ada' BASE/people`,
  `curl -d $'note=it\\'s' BASE/people`,
  `curl -X POST BASE/people -H 'Content-Type: application/vnd.api+json' -d '{"data":{"email":"ada@mail.example"}}'`,
  `curl --compressed BASE/lists # what is there`,
  `KEY=1 curl BASE/lists`,
  `curl -- BASE/lists`,
]

/** Parts of a form as a server reads them. */
function formOf({ headers, body }: Recorded): [string, string][] {
  const boundary = /boundary=(\S+)/.exec(headers['content-type'] ?? '')?.[1]
  if (boundary === undefined) return [...new URLSearchParams(body)]
  return body
    .split(`--${boundary}`)
    .flatMap((part) => /name="([^"]*)"\r\n\r\n([^]*)\r\n$/.exec(part)?.slice(1, 3) ?? [])
    .reduce<[string, string][]>((pairs, one, at, all) => (at % 2 === 0 ? [...pairs, [one, all[at + 1]!]] : pairs), [])
}

const sentHeaders = ({ headers, user }: ExampleRequest) => ({
  ...Object.fromEntries(headers.map(({ name, value }) => [name.toLowerCase(), value])),
  ...(user !== null && { authorization: `Basic ${Buffer.from(user).toString('base64')}` }),
})

test.each(commands.map((command) => [command]))('%s', async (command) => {
  recorded = null
  const line = command.replaceAll('BASE', base)
  await promisify(execFile)('bash', ['-c', line.replace('curl', "curl --noproxy '*' -s")], {
    env: { ...process.env, EXAMPLE_ID: '$EXAMPLE_ID' },
  })
  const sent = recorded as Recorded | null
  const reading = readExamples(line)
  expect(reading.ok).toBe(true)
  if (!reading.ok || sent === null) throw new Error('nothing came')
  const [request] = reading.requests
  expect(request!.unread).toEqual([])
  expect(request!.method).toBe(sent.method)
  const [read, real] = [new URL(request!.address), new URL(sent.target, base)]
  // Percent-encoding is in capitals or not (RFC 3986, 6.2.2.1).
  expect([decodeURI(read.pathname), [...read.searchParams]]).toEqual([decodeURI(real.pathname), [...real.searchParams]])
  expect(sent.headers).toMatchObject(sentHeaders(request!))
  if (request!.body === null) expect(sent.body).toBe('')
  else if (request!.body.kind === 'json') expect(request!.body.value).toEqual(JSON.parse(sent.body))
  else if (request!.body.kind === 'form')
    expect(request!.body.pairs.map(({ name, value }) => [name, value])).toEqual(formOf(sent))
  else expect(request!.body.text).toBe(sent.body)
})

test.each([
  ['curl https://a.example/x -d @body.json', /the file body\.json/],
  ['curl https://a.example/x -d @- <<\'EOF\'\n{"a": 1}\nEOF', /here-document|“@-”/],
  ['curl https://a.example/x -T upload.bin', /-T upload\.bin/],
  ['curl -H @headers.txt https://a.example/x', /the file headers\.txt/],
  ['curl https://a.example/x?a=1&b=2', /“&”/],
  ['curl https://a.example/x -d "$(cat body)"', /\$\(…\)/],
  ['curl https://a.example/x --next https://a.example/y', /--next/],
  ['curl -X TRACE https://a.example/x', /TRACE/],
])('what is not read of %s is named', (command, named) => {
  const reading = readExamples(command)
  expect(reading.ok && reading.requests[0]!.unread.join('; ')).toMatch(named)
})

test('variables stay as they are written, for whoever puts something in', () => {
  const reading = readExamples(
    'curl "$BASE_URL/lists/${LIST_ID}/people" -H "Authorization: Bearer $API_KEY" -d \'{"a": "$X"}\'',
  )
  expect(reading.ok && reading.requests[0]).toMatchObject({
    address: '$BASE_URL/lists/$LIST_ID/people',
    headers: [{ name: 'Authorization', value: 'Bearer $API_KEY' }],
    body: { kind: 'json', value: { a: '$X' } },
  })
})

test('messages of HTTP, addresses alone, and several examples among words of documentation', () => {
  const reading = readExamples(`Add somebody
    POST /v3/lists/7/people HTTP/1.1
    Host: api.marsh.example
    Content-Type: application/json

    { "email": "ada@mail.example",
      "tags": ["a"] }

The answer is 201.

GET https://api.marsh.example/v3/lists
https://api.marsh.example/v3/me
$ curl https://api.marsh.example/v3/people \\
    -d email=ada@mail.example
and that is all`)
  expect(reading.ok && reading.requests.map(({ method, address }) => `${method} ${address}`)).toEqual([
    'POST https://api.marsh.example/v3/lists/7/people',
    'GET https://api.marsh.example/v3/lists',
    'GET https://api.marsh.example/v3/me',
    'POST https://api.marsh.example/v3/people',
  ])
  expect(reading.ok && reading.requests[0]!.body).toEqual({
    kind: 'json',
    value: { email: 'ada@mail.example', tags: ['a'] },
  })
})

test.each([
  ['', /Nothing is pasted/],
  ['Dear reader', /No example request/],
  ['curl '.repeat(200_000), /letters long/],
  ['curl', /No example request/],
])('what is no example says so: %.20s', (text, says) => {
  const reading = readExamples(text)
  expect(!reading.ok && reading.message).toMatch(says)
})
