import { commandAt } from './command-words'
import { curlRequest } from './curl-request'
import { bodyOf, type ExampleMethod, type ExampleRequest, headerIn, headerOf, type Pair } from './example-request'

/** Longest text that is read, in UTF-16 units. */
export const LONGEST_TEXT = 400_000
const MOST_REQUESTS = 40

export type ReadExamples =
  | { ok: true; requests: ExampleRequest[]; /** Lines that say nothing that is read, shortened. */ unread: string[] }
  | { ok: false; message: string }

const COMMAND = /^[ \t]*(?:[$>%#] )?(?:[A-Za-z_]\w*=\S*[ \t]+)*curl(?:\.exe)?(?=[ \t\\])/
const REQUEST_LINE = /^[ \t]*(GET|POST|PUT|PATCH|DELETE)[ \t]+(\S+)(?:[ \t]+HTTP\/\d(?:\.\d)?)?[ \t]*$/
const ADDRESS_LINE = /^[ \t]*(https?:\/\/\S+)[ \t]*$/

/**
 * The requests that stand in a text from a service's documentation: command lines of `curl`, HTTP messages (RFC 9112,
 * section 2), and addresses alone. What is said around them is passed over.
 */
export function readExamples(text: string): ReadExamples {
  if (text.length > LONGEST_TEXT)
    return {
      ok: false,
      message: `This is ${text.length.toLocaleString('en-GB')} letters long; up to ${LONGEST_TEXT.toLocaleString('en-GB')} are read. Paste the examples alone.`,
    }
  const requests: ExampleRequest[] = []
  const unread: string[] = []
  for (let at = 0; at < text.length && requests.length < MOST_REQUESTS;) {
    const lineEnd = endOfLine(text, at)
    const line = text.slice(at, lineEnd)
    const command = COMMAND.exec(line)
    if (command !== null) {
      const read = commandAt(text, at + command[0].search(/curl(?:\.exe)?$/))
      const request = curlRequest(read)
      if (request === null) unread.push('A line with curl has no address, and was not read')
      else requests.push(request)
      at = Math.max(read.end, at) + 1
      continue
    }
    const message = REQUEST_LINE.exec(line)
    if (message !== null) {
      const request = messageAt(text, at, message[1] as ExampleMethod, message[2]!)
      requests.push(request)
      at = request.end + 1
      continue
    }
    const address = ADDRESS_LINE.exec(line)?.[1]
    if (address !== undefined)
      requests.push({
        ...{ method: 'GET', address, headers: [], user: null, body: null, unread: [] },
        ...{ start: at + line.indexOf(address), end: at + line.indexOf(address) + address.length },
      })
    at = lineEnd + 1
  }
  if (requests.length === 0)
    return {
      ok: false,
      message:
        text.trim() === ''
          ? 'Nothing is pasted yet.'
          : 'No example request stands in this. It is a line that begins with “curl”, or with GET, POST or PUT and an address.',
    }
  return { ok: true, requests, unread }
}

const endOfLine = (text: string, at: number) => {
  const end = text.indexOf('\n', at)
  return end === -1 ? text.length : end
}

/** A message from its request line on: its headers, and its body up to the next request or a fence. */
function messageAt(text: string, start: number, method: ExampleMethod, target: string): ExampleRequest {
  const headers: Pair[] = []
  let at = endOfLine(text, start) + 1
  while (at < text.length) {
    const end = endOfLine(text, at)
    const header = /^[ \t]*[!#$%&'*+.^_`|~0-9A-Za-z-]+:[ \t]/.test(text.slice(at, end))
      ? headerOf(text.slice(at, end).trim())
      : null
    if (header === null) break
    headers.push(header)
    at = end + 1
  }
  let end = Math.min(text.length, at - 1)
  let body = ''
  // A body stands behind one empty line, or at once where it is plainly JSON.
  const blank = /^[ \t]*\r?\n/.exec(text.slice(at, at + 40))?.[0] ?? ''
  const bodyAt = at + blank.length
  if (bodyAt < text.length && (blank !== '' || /^[ \t]*[[{]/.test(text.slice(at, at + 40)))) {
    const stop = bodyEnd(text, bodyAt)
    body = text.slice(bodyAt, stop).trim()
    const isBody = /^[[{]/.test(body) || (headerIn(headers, 'content-type') !== null && /^[^\s=&]+=\S*$/.test(body))
    if (isBody) end = bodyAt + text.slice(bodyAt, stop).trimEnd().length
    else body = ''
  }
  const host = headerIn(headers, 'host')
  return {
    method,
    address:
      /^https?:\/\//.test(target) || host === null
        ? target
        : `https://${host}${target.startsWith('/') ? '' : '/'}${target}`,
    headers: headers.filter(({ name }) => name.toLowerCase() !== 'host'),
    user: null,
    body: bodyOf(body, headerIn(headers, 'content-type') ?? ''),
    ...{ start, end, unread: [] },
  }
}

/** A JSON body ends with its last bracket; another at the next empty line. */
function bodyEnd(text: string, start: number): number {
  const first = /\S/.exec(text.slice(start))
  if (first === null) return text.length
  const from = start + first.index
  if (!/[[{]/.test(text[from]!)) {
    const blank = /\r?\n[ \t]*\r?\n/.exec(text.slice(from))
    return blank === null ? text.length : from + blank.index
  }
  let depth = 0
  let isQuoted = false
  for (let at = from; at < text.length; at++) {
    const character = text[at]!
    if (isQuoted) {
      if (character === '\\') at += 1
      else if (character === '"') isQuoted = false
    } else if (character === '"') isQuoted = true
    else if (character === '{' || character === '[') depth += 1
    else if (character === '}' || character === ']') {
      depth -= 1
      if (depth === 0) return at + 1
    }
  }
  return text.length
}
