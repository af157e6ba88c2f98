import { bodyOf, type ExampleMethod, exampleMethods, type ExampleRequest, headerIn, headerOf } from './example-request'
import type { Command } from './command-words'

/** Flags of `curl` that take a word behind them, by what becomes of it (curl's manual page, version 7.88). */
const withWord: Record<string, 'read' | 'passed over' | 'not read'> = {
  ...of('read', '-X --request -H --header -u --user -d --data --data-ascii --data-binary --data-raw --data-urlencode'),
  ...of('read', '--json --url --url-query -F --form --form-string -A --user-agent -e --referer --oauth2-bearer'),
  ...of(
    'passed over',
    '-o --output -w --write-out -m --max-time --connect-timeout --retry --retry-delay -D --dump-header',
  ),
  ...of(
    'passed over',
    '--retry-max-time --limit-rate -c --cookie-jar --cacert --capath --ciphers --tls-max --stderr --trace',
  ),
  ...of(
    'passed over',
    '--trace-ascii --proto --proto-default --resolve --interface --max-redirs --dns-servers --keepalive-time',
  ),
  ...of(
    'not read',
    '-b --cookie -T --upload-file -K --config -x --proxy -E --cert --key --aws-sigv4 -r --range -z --time-cond',
  ),
}

function of(what: 'read' | 'passed over' | 'not read', flags: string): Record<string, typeof what> {
  return Object.fromEntries(flags.split(' ').map((flag) => [flag, what]))
}

const longNames: Record<string, string> = {
  ...{
    '-X': '--request',
    '-H': '--header',
    '-u': '--user',
    '-d': '--data',
    '-F': '--form',
    '-G': '--get',
    '-I': '--head',
  },
  ...{ '-A': '--user-agent', '-e': '--referer', '--data-ascii': '--data', '--form-string': '--form' },
}

/** What a command line gives, flag by flag. */
interface Given {
  addresses: string[]
  headers: string[]
  data: string[]
  query: string[]
  form: string[]
  method: string
  user: string | null
  bearer: string | null
  isJson: boolean
  isGet: boolean
  isHead: boolean
  problems: string[]
}

/** What a command line of `curl` sends, as data. */
export function curlRequest({ words, start, end, unread }: Command): ExampleRequest | null {
  const given = givenBy(words, unread)
  const { problems, query, user, form, isGet, isJson } = given
  const headers = headersOf(given)
  const data = given.data.join(isJson ? '' : '&')
  const type = isJson ? 'application/json' : (headerIn(headers, 'content-type') ?? '')
  if (given.isHead) problems.push('that only the head of the answer is asked for')
  const [address, ...others] = given.addresses
  if (address === undefined) return null
  if (others.length > 0) problems.push(`the further address ${others[0]!}`)
  const body = form.length > 0 ? multipart(form, problems) : isGet ? null : bodyOf(data, type)
  const wanted = given.method || (body === null && !(data !== '' && !isGet) ? 'GET' : 'POST')
  if (!isMethod(wanted)) problems.push(`the method ${wanted}`)
  return {
    method: isMethod(wanted) ? wanted : 'GET',
    address: withQuery(withScheme(address), [...(isGet && data !== '' ? [data] : []), ...query]),
    ...{ headers, user, body, start, end, unread: problems },
  }
}

function headersOf({ headers: lines, bearer }: Given): ExampleRequest['headers'] {
  const headers = lines.flatMap((line) => {
    const header = headerOf(line)
    return header === null || header.value === '' ? [] : [header]
  })
  return bearer === null || headerIn(headers, 'authorization') !== null
    ? headers
    : [...headers, { name: 'Authorization', value: `Bearer ${bearer}` }]
}

function givenBy(words: readonly string[], unread: readonly string[]): Given {
  const given: Given = {
    ...{ addresses: [], headers: [], data: [], query: [], form: [], problems: [...unread] },
    ...{ method: '', user: null, bearer: null, isJson: false, isGet: false, isHead: false },
  }
  const alone = (flag: string) => {
    if (flag === '--get' || flag === '-G') given.isGet = true
    if (flag === '--head' || flag === '-I') given.isHead = true
  }
  const follow = (flag: string, word: string | undefined) => {
    if (word === undefined) return
    if (withWord[flag] === 'read') take(given, longNames[flag] ?? flag, word)
    else if (withWord[flag] === 'not read') given.problems.push(`“${flag} ${word}”`)
  }
  let isPlain = false
  for (let at = 1; at < words.length; at++) {
    const word = words[at]!
    if (isPlain || !word.startsWith('-') || word === '-') {
      given.addresses.push(word)
      continue
    }
    if (word === '--') isPlain = true
    else if (word === '--next' || word === '-:') {
      given.problems.push('what stands behind --next: paste it as a command of its own')
      break
    } else if (word.startsWith('--')) {
      if (withWord[word] === undefined) alone(word)
      else follow(word, words[++at])
    } else {
      // Short flags stand together, and the word may follow at once: -sXPOST.
      for (let letter = 1; letter < word.length; letter++) {
        const flag = `-${word[letter]!}`
        if (withWord[flag] === undefined) {
          alone(flag)
          continue
        }
        const rest = word.slice(letter + 1)
        follow(flag, rest === '' ? words[++at] : rest)
        break
      }
    }
  }
  return given
}

/** Takes in a flag that has a word, by its long name. */
function take(given: Given, flag: string, word: string): void {
  switch (flag) {
    case '--request':
      given.method = word.toUpperCase()
      break
    case '--header':
      if (!word.startsWith('@')) given.headers.push(word)
      else given.problems.push(`the file ${word.slice(1)}`)
      break
    case '--user':
      given.user = word
      break
    case '--oauth2-bearer':
      given.bearer = word
      break
    case '--user-agent':
      given.headers.push(`User-Agent: ${word}`)
      break
    case '--referer':
      given.headers.push(`Referer: ${word}`)
      break
    case '--url':
      given.addresses.push(word)
      break
    case '--url-query':
      given.query.push(word.startsWith('+') ? word.slice(1) : urlEncoded(word, given.problems))
      break
    case '--json':
      given.isJson = true
      addData(word, given.data, given.problems)
      break
    case '--data-urlencode':
      given.data.push(urlEncoded(word, given.problems))
      break
    case '--data-raw':
      given.data.push(word)
      break
    case '--form':
      given.form.push(word)
      break
    default:
      addData(word, given.data, given.problems, flag === '--data')
  }
}

const isMethod = (name: string): name is ExampleMethod => exampleMethods.some((method) => method === name)

/** Without a scheme, `curl` takes http; documentation means https. */
const withScheme = (address: string) =>
  /^[a-z][a-z0-9+.-]*:\/\//i.test(address) || address.startsWith('$') ? address : `https://${address}`

function withQuery(address: string, parts: readonly string[]): string {
  if (parts.length === 0) return address
  const [before = '', fragment] = address.split('#', 2)
  const joined = `${before}${before.includes('?') ? '&' : '?'}${parts.join('&')}`
  return fragment === undefined ? joined : `${joined}#${fragment}`
}

/** `@` begins a file's name; `--data` drops line ends of files alone, so typed ones stay. */
function addData(word: string, data: string[], problems: string[], mayBeFile = true): void {
  if (mayBeFile && word === '@-') problems.push('what is typed or handed in behind “@-”')
  else if (mayBeFile && word.startsWith('@')) problems.push(`the file ${word.slice(1)}: paste what is in it behind -d`)
  else data.push(word)
}

/** `content`, `=content`, `name=content`, `@file` and `name@file`, as curl's manual has them. */
function urlEncoded(word: string, problems: string[]): string {
  const [, name = '', sign, content = ''] = /^([^=@]*)([=@])([^]*)$/.exec(word) ?? []
  if (sign === undefined) return formEncoded(word)
  if (sign === '@') {
    problems.push(`the file ${content}`)
    return name === '' ? '' : `${name}=`
  }
  return name === '' ? formEncoded(content) : `${name}=${formEncoded(content)}`
}

/** As `curl` writes it: a space is `+`. */
const formEncoded = (text: string) => encodeURIComponent(text).replaceAll('%20', '+')

/** Parts of `multipart/form-data` as pairs; the service file writes them url-encoded, which forms of services take as well. */
function multipart(parts: readonly string[], problems: string[]): ExampleRequest['body'] {
  const pairs = parts.flatMap((part) => {
    const [, name, value = ''] = /^([^=]+)=([^]*)$/.exec(part) ?? []
    if (name === undefined) return []
    if (/^[@<]/.test(value)) {
      problems.push(`the file ${value.slice(1)}`)
      return []
    }
    return [{ name, value: value.replace(/;(?:type|filename)=[^;]*$/, '') }]
  })
  return { kind: 'form', pairs }
}
