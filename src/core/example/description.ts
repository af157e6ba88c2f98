import { parseDocument } from 'yaml'
import type { JsonTemplate, RequestName } from '#core/connection'
import { parsedJson } from '#core/json'
import { sampleOf, type Schema } from './sample'
import { guessRoles, guessStep } from './roles'
import { piecesOf } from './pieces'
import { followReferences } from './references'
import { readExamples } from './read-examples'
import { isAccountWord, isFieldWord, isListWord, isOffWord, isPeopleWord, isTagWord } from './words'

/** Longest description that is read, in UTF-16 units. */
export const LONGEST_DESCRIPTION = 6_000_000
const DEEPEST = 80
const MOST_OPERATIONS = 1_000
/** YAML can name a part again and again, each time larger: so often at most. */
const MOST_ALIASES = 200

/** One request that a description offers. */
export interface DescribedOperation {
  /** Such as `GET /lists`. */
  name: string
  /** What it says of itself. */
  about: string
  /** As a message of HTTP, with what is to be put in within braces. */
  text: string
  /** An answer as it is described, as JSON; null where none is. */
  answer: string | null
  /** What it is likely for; null for what is not needed. */
  step: RequestName | null
  score: number
  why: string
}

export type ReadDescription =
  | { ok: true; title: string; operations: DescribedOperation[]; /** What was left out, in words. */ unread: string[] }
  | { ok: false; message: string }

type JsonObject = Record<string, JsonTemplate>
const isObject = (value: unknown): value is JsonObject =>
  value !== null && typeof value === 'object' && !Array.isArray(value)
const METHODS = ['get', 'post', 'put', 'patch', 'delete'] as const

/**
 * Reads a description file (OpenAPI Specification 3.0 and 3.1), JSON or YAML. Only references within the file are followed;
 * nothing is fetched or opened.
 */
export async function readDescription(text: string): Promise<ReadDescription> {
  if (text.length > LONGEST_DESCRIPTION)
    return refused(
      `It is ${Math.round(text.length / 1e6)} MB; up to ${LONGEST_DESCRIPTION / 1e6} are read. Paste the examples of three or four requests instead.`,
    )
  const document = parsed(text)
  if (typeof document === 'string') return refused(document)
  if (document.swagger !== undefined)
    return refused(
      'It is of an older kind (“swagger” 2). The service may have one of the kind OpenAPI 3.0 or 3.1; or paste its examples.',
    )
  if (typeof document.openapi !== 'string' || !/^3\.[01](?:\.|$)/.test(document.openapi))
    return refused(
      document.openapi === undefined
        ? 'This is no description file: one has “openapi: 3.0” or “3.1” in it.'
        : `It is of the kind OpenAPI ${String(document.openapi).slice(0, 20)}; 3.0 and 3.1 are read.`,
    )
  const outside = withoutOutsideReferences(document)
  if (outside === null) return refused(`It goes more than ${DEEPEST} levels deep.`)
  const followed = followReferences(document)
  if (!followed.ok) return refused(followed.message)
  const operations = operationsOf(document)
  if (operations.length === 0) return refused('It describes no request.')
  const { info } = document
  return {
    ok: true,
    title: isObject(info) && typeof info.title === 'string' ? info.title.slice(0, 100) : '',
    operations,
    unread: [...new Set(outside)]
      .slice(0, 5)
      .map((reference) => `“${reference.slice(0, 100)}” leads out of the file, and was not followed`),
  }
}

const refused = (message: string) => ({ ok: false as const, message })

/** The document, or why it is none. */
function parsed(text: string): JsonObject | string {
  const trimmed = text.trimStart()
  if (trimmed === '') return 'It is empty.'
  if (trimmed.startsWith('<'))
    return 'This is a page or XML, and no description file. Look for one that ends with .json, .yaml or .yml.'
  let value: unknown
  if (trimmed.startsWith('{')) value = parsedJson(text)
  else
    try {
      const document = parseDocument(text, { logLevel: 'silent', strict: false })
      if (document.errors[0] !== undefined)
        return `It cannot be read as YAML: ${document.errors[0].message.split('\n')[0]!}`
      value = document.toJS({ maxAliasCount: MOST_ALIASES })
    } catch (error) {
      return `It cannot be read as YAML: ${(error as Error).message.split('\n')[0]!.slice(0, 200)}`
    }
  if (value === undefined) return 'It cannot be read as JSON: a sign in it is too many, or one is missing.'
  return isObject(value) ? value : 'This is no description file: one has “openapi: 3.0” or “3.1” in it.'
}

/** Takes references away that lead out of the file; returns them, or null for what is too deep. */
function withoutOutsideReferences(document: JsonObject): string[] | null {
  const outside: string[] = []
  const seen = new Set<unknown>()
  const stack: [unknown, number][] = [[document, 0]]
  for (let one = stack.pop(); one !== undefined; one = stack.pop()) {
    const [value, depth] = one
    if (value === null || typeof value !== 'object' || seen.has(value)) continue
    if (depth > DEEPEST) return null
    seen.add(value)
    const { $ref } = value as { $ref?: unknown }
    if (typeof $ref === 'string' && !$ref.startsWith('#')) {
      outside.push($ref)
      delete (value as { $ref?: unknown }).$ref
    }
    for (const part of Object.values(value)) stack.push([part, depth + 1])
  }
  return outside
}

function operationsOf(document: JsonObject): DescribedOperation[] {
  const base = serverOf(document)
  const operations: DescribedOperation[] = []
  for (const [path, item] of Object.entries(isObject(document.paths) ? document.paths : {})) {
    if (!isObject(item)) continue
    for (const method of METHODS) {
      const operation = item[method]
      if (!isObject(operation) || operations.length >= MOST_OPERATIONS) continue
      const parameters = [...listOf(item.parameters), ...listOf(operation.parameters)].filter(isObject)
      const text = messageFor({ document, base, path, method, operation, parameters })
      const about =
        [operation.summary, operation.operationId, operation.description].find((one) => typeof one === 'string') ?? ''
      operations.push({
        name: `${method.toUpperCase()} ${path}`,
        about: String(about).split('\n')[0]!.slice(0, 160),
        text,
        answer: answerOf(operation),
        ...judged(text, `${String(operation.summary ?? '')}\n${String(operation.operationId ?? '')}`, path),
      })
    }
  }
  return operations
}

const listOf = (value: JsonTemplate | undefined): JsonTemplate[] => (Array.isArray(value) ? value : [])

/** The first server's address; what varies in it is asked of the owner, where it has no usual value. */
function serverOf({ servers }: JsonObject): string {
  const [server] = listOf(servers)
  if (!isObject(server) || typeof server.url !== 'string') return ''
  const variables = isObject(server.variables) ? server.variables : {}
  return server.url
    .replaceAll(/\{([^{}]+)\}/g, (whole, name: string) => {
      const variable = variables[name]
      const usual = isObject(variable) && typeof variable.default === 'string' ? variable.default : ''
      return usual === '' || /your|example|xxx/i.test(usual) ? whole : usual
    })
    .replace(/\/$/, '')
}

interface Described {
  document: JsonObject
  base: string
  path: string
  method: (typeof METHODS)[number]
  operation: JsonObject
  parameters: readonly JsonObject[]
}

function messageFor({ document, base, path, method, operation, parameters }: Described): string {
  const query: string[] = []
  const headers: string[] = []
  for (const parameter of parameters) {
    const name = String(parameter.name ?? '')
    const isNeeded =
      parameter.required === true ||
      /^(?:page|cursor|after|offset|page_?token|starting_after|email|list(?:_?id)?|q|query|search)$/i.test(name)
    if (parameter.in === 'query' && isNeeded) query.push(`${encodeURIComponent(name)}=${valueFor(parameter)}`)
    if (
      parameter.in === 'header' &&
      parameter.required === true &&
      !/^(?:accept|content-type|authorization)$/i.test(name)
    )
      headers.push(`${name}: ${valueFor(parameter)}`)
  }
  const key = keyOf(document, operation)
  const body = bodyOf(operation)
  const search = [...query, ...key.query].join('&')
  return [
    `${method.toUpperCase()} ${base}${path}${search === '' ? '' : `?${search}`}`,
    ...key.headers,
    ...headers,
    ...(body === null ? [] : [`Content-Type: ${body.type}`, '', body.text]),
  ].join('\n')
}

/** What stands for a parameter: its example, if it is no one's own, else its name to be filled in. */
function valueFor(parameter: JsonObject): string {
  const schema = isObject(parameter.schema) ? parameter.schema : {}
  const name = String(parameter.name)
  const usual = schema.default ?? (Array.isArray(schema.enum) ? schema.enum[0] : undefined)
  return usual !== undefined && usual !== null && typeof usual !== 'object' && !/^page$|cursor|offset/i.test(name)
    ? encodeURIComponent(String(usual))
    : `{${name}}`
}

/** Where the key goes, by the first of the operation's or the document's requirements. */
function keyOf(document: JsonObject, operation: JsonObject): { headers: string[]; query: string[] } {
  const schemes =
    isObject(document.components) && isObject(document.components.securitySchemes)
      ? document.components.securitySchemes
      : {}
  const required = listOf(operation.security ?? document.security).find(
    (one) => isObject(one) && Object.keys(one).length > 0,
  )
  const names = isObject(required) ? Object.keys(required) : Object.keys(schemes).slice(0, 1)
  const [headers, query]: [string[], string[]] = [[], []]
  for (const name of names) {
    const scheme = schemes[name]
    if (!isObject(scheme)) continue
    const kind = String(scheme.scheme ?? '').toLowerCase()
    if (scheme.type === 'http' && kind === 'basic') headers.push('Authorization: Basic {api_key}')
    else if (scheme.type === 'apiKey' && scheme.in === 'query')
      query.push(`${String(scheme.name)}={${wordFor(scheme)}}`)
    else if (scheme.type === 'apiKey' && scheme.in === 'header')
      headers.push(`${String(scheme.name)}: {${wordFor(scheme)}}`)
    else if (scheme.type !== 'apiKey') headers.push('Authorization: Bearer {api_key}')
  }
  return { headers, query }
}
const wordFor = ({ name }: JsonObject) => (/secret|private/i.test(String(name)) ? 'api_secret' : 'api_key')

function bodyOf({ requestBody }: JsonObject): { type: string; text: string } | null {
  const content = isObject(requestBody) && isObject(requestBody.content) ? requestBody.content : {}
  const json = Object.keys(content).find((type) => /\bjson\b/i.test(type))
  const form = Object.keys(content).find((type) => /x-www-form-urlencoded|multipart\/form-data/.test(type))
  const type = json ?? form
  if (type === undefined) return null
  const sample = exampleOf(content[type]) ?? sampleOf(schemaOf(content[type]), '')
  if (json !== undefined) return { type, text: JSON.stringify(sample, null, 2) }
  const pairs = isObject(sample) ? Object.entries(sample) : []
  return {
    type: 'application/x-www-form-urlencoded',
    text: pairs
      .map(
        ([name, value]) =>
          `${name}=${typeof value === 'object' ? '' : encodeURIComponent(String(value)).replaceAll('%7B', '{').replaceAll('%7D', '}')}`,
      )
      .join('&'),
  }
}

const schemaOf = (media: JsonTemplate | undefined): Schema =>
  isObject(media) && isObject(media.schema) ? media.schema : {}

function exampleOf(media: JsonTemplate | undefined): JsonTemplate | undefined {
  if (!isObject(media)) return undefined
  if (media.example !== undefined) return media.example
  const [first] = Object.values(isObject(media.examples) ? media.examples : {})
  return isObject(first) ? first.value : undefined
}

function answerOf({ responses }: JsonObject): string | null {
  const good = Object.entries(isObject(responses) ? responses : {}).find(([status]) => /^2/.test(status))?.[1]
  const content = isObject(good) && isObject(good.content) ? good.content : {}
  const media = Object.entries(content).find(([type]) => /\bjson\b/i.test(type))?.[1]
  if (media === undefined) return null
  const sample = exampleOf(media) ?? sampleOf(schemaOf(media), '', { isAnswer: true })
  return sample === undefined ? null : JSON.stringify(sample)
}

/** What an operation is likely for, and why. */
function judged(text: string, words: string, path: string): Pick<DescribedOperation, 'step' | 'score' | 'why'> {
  const reading = readExamples(text)
  const request = reading.ok ? reading.requests[0] : undefined
  if (request === undefined) return { step: null, score: 0, why: '' }
  const roles = guessRoles(request, piecesOf(request, text))
  const step = guessStep(request, roles)
  if (step === null) return { step, score: 0, why: '' }
  const held = new Set(Object.values(roles))
  const isNamed: Partial<Record<RequestName, (words: string) => boolean>> = {
    ...{ account: isAccountWord, lists: isListWord, fields: isFieldWord, tags: isTagWord, off: isOffWord },
    ...{ find: isPeopleWord, members: isPeopleWord, put: isPeopleWord, change: isPeopleWord },
  }
  const saysSo = isNamed[step]?.(words) === true
  const whys = [
    saysSo &&
      `it calls itself “${words
        .trim()
        .split(/\s{2,}/)[0]!
        .slice(0, 60)}”`,
    held.has('email') && 'it names the address',
    (held.has('email-md5') || held.has('email-sha256')) && 'it names the address as a hash',
    held.has('list') && 'it names the list',
    (held.has('fields') || held.has('field')) && 'it takes fields',
  ].filter((why) => why !== false)
  const depth = path.split('/').length
  return {
    step,
    score:
      (saysSo ? 4 : 0) +
      (held.has('email') || held.has('email-md5') ? 2 : 0) +
      (held.has('list') ? 2 : 0) +
      (held.has('fields') || held.has('field') ? 1 : 0) -
      depth / 4,
    why: whys.length === 0 ? 'by its address' : whys.join(', '),
  }
}

/** Operations for a step, the likeliest first; then all others. */
export function offeredFor(step: RequestName, operations: readonly DescribedOperation[]): DescribedOperation[] {
  const likely = operations.filter((one) => one.step === step).toSorted((one, other) => other.score - one.score)
  return [...likely, ...operations.filter((one) => one.step !== step)]
}
