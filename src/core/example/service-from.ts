import {
  type Ask,
  type JsonTemplate,
  readServiceFile,
  type RequestName,
  type ServiceFile,
  type ServiceRequest,
  SPREAD,
} from '#core/connection'
import { pointerStep } from '#core/json'
import type { ExampleRequest } from './example-request'
import { partsOfAddress, type Piece } from './pieces'
import { pairKeys, type Role, type Roles } from './roles'
import { keyIn } from './service-key'
import type { UnderstoodRequest } from './understood-request'
import { placeholderIn, wordsOf } from './words'

/** Where what was asked for stands in an answer. */
export type AnswerReading = Pick<
  ServiceRequest,
  'items' | 'read' | 'next' | 'tagName' | 'answers' | 'outcomes' | 'most'
>

export interface ServiceParts {
  name: string
  /** Where it stands, for examples that tell their path alone. */
  origin: string
  requests: readonly UnderstoodRequest[]
  readings: Readonly<Partial<Record<RequestName, AnswerReading>>>
  said?: readonly string[]
  /** Where its owner finds the key. */
  keyWhere?: string
}

export type MadeService =
  | { ok: true; service: ServiceFile }
  | { ok: false; problem: string; about: 'address' | 'key' | 'lists' | 'put' | 'file' }

/** A service file from examples; what is still missing is said. */
export function serviceFrom(parts: ServiceParts): MadeService {
  const { requests } = parts
  const origins = [...new Set(requests.flatMap(({ request }) => originOf(request.address) ?? []))]
  const origin = origins[0] ?? originOf(parts.origin)
  if (origins.length > 1)
    return {
      ok: false,
      about: 'address',
      problem: `The examples go to ${origins.join(' and to ')}. Keep those of one address.`,
    }
  if (origin === null || origin === undefined)
    return {
      ok: false,
      about: 'address',
      problem: 'The examples do not say where the service stands. Add its address.',
    }
  const asks = asksIn(requests)
  const shared = sharedSegments(requests)
  const key = keyIn(requests)
  if (key === null)
    return {
      ok: false,
      about: 'key',
      problem: 'No example shows where the key goes. Press the key in the text, or paste an example that has one.',
    }
  const made: Partial<Record<RequestName, ServiceRequest>> = {}
  for (const understood of requests)
    made[understood.step] ??= { ...requestFrom(understood, shared), ...parts.readings[understood.step] }
  if (made.put === undefined)
    return { ok: false, about: 'put', problem: 'No example puts somebody on a list. Paste the one that adds somebody.' }
  if (made.lists === undefined)
    return { ok: false, about: 'lists', problem: 'No example asks which lists there are. Paste that one as well.' }
  const own = made.fields === undefined ? fieldsBeside(requests) : []
  const headers = fixedHeaders(requests)
  const dates = datesSpelledIn(requests)
  const service = {
    askBoxService: 1,
    name: parts.name.trim() || nameOf(origin, shared[0]),
    base: origin + shared.map((segment) => `/${segment}`).join(''),
    key: { ...key, ...(parts.keyWhere !== undefined && { where: parts.keyWhere }) },
    ...(asks.length > 0 && { asks }),
    ...(Object.keys(headers).length > 0 && { headers }),
    requests: made,
    said: parts.said?.length
      ? parts.said
      : ['/message', '/error/message', '/error', '/detail', '/title', '/errors/0/message'],
    ...(own.length > 0 && { ownFields: own.map((name) => ({ key: name, name: wordsOf(name).join(' ') || name })) }),
    ...(dates !== null && { spelled: { dates } }),
    ...(requests.some(({ roles }) => Object.values(roles).includes('asks')) && { confirms: true }),
  }
  const checked = readServiceFile(JSON.stringify(service))
  return checked.ok ? checked : { ok: false, about: 'file', problem: checked.message }
}

/** Scheme and host; https where an example says neither. What is put in there is asked of the owner. */
function originOf(address: string): string | null {
  const { origin } = partsOfAddress(address)
  if (!/^https?:\/\//i.test(origin))
    return /^[a-z0-9.-]+\.[a-z]{2,}$/i.test(address.trim()) ? `https://${address.trim()}` : null
  const [, scheme = 'https:', host = ''] = /^(https?:)\/\/(.*)$/i.exec(origin) ?? []
  const isHere = /^(?:127\.0\.0\.1|localhost)(?::\d+)?$/.test(host)
  const labels = host.split('.').map((label) => {
    const asked = placeholderIn(label)
    return asked === null ? label : `{${askName(asked)}}`
  })
  return `${isHere ? scheme : 'https:'}//${labels.join('.')}`
}

/** A name of the service from its address: of `api.reed-letters.example`, “Reed letters”. */
export function nameOf(origin: string, path = ''): string {
  const host = origin.replace(/^https?:\/\//, '').split('/')[0]!
  if (/^(?:[\d.]+|localhost)(?::\d+)?$/.test(host))
    return path === '' ? 'A service' : path.charAt(0).toUpperCase() + path.slice(1)
  const labels = origin
    .replace(/^https?:\/\//, '')
    .split(/[:/]/)[0]!
    .split('.')
  const own =
    labels.length > 2
      ? labels
          .slice(0, -1)
          .filter((label) => !/^(?:api|www|rest|app|v\d+|\{\w+\})$/i.test(label))
          .at(-1)
      : labels[0]
  const words = (own ?? labels[0]!).replaceAll(/[-_]/g, ' ')
  return words.charAt(0).toUpperCase() + words.slice(1)
}

const askName = (asked: string) => {
  const [first = 'account', ...others] = wordsOf(asked).filter((word) => word !== 'your')
  const name = first + others.map((word) => word.charAt(0).toUpperCase() + word.slice(1)).join('')
  return /^[a-z]/.test(name) ? name : `a${name}`
}

const accountName = ({ name, value }: Pick<Piece, 'name' | 'value'>) =>
  askName(placeholderIn(value) ?? (name || 'account'))

function asksIn(requests: readonly UnderstoodRequest[]): Ask[] {
  const found = new Map<string, Ask>()
  const add = (name: string, words: string, example: string) => {
    if (!found.has(name))
      found.set(name, {
        name,
        label: words.charAt(0).toUpperCase() + words.slice(1),
        where: 'In the service, where its key stands.',
        ...(example !== '' && placeholderIn(example) === null && { example: example.slice(0, 200) }),
      })
  }
  for (const { request, pieces, roles } of requests) {
    for (const label of partsOfAddress(request.address)
      .origin.replace(/^https?:\/\//, '')
      .split('.')) {
      const asked = placeholderIn(label)
      if (asked !== null) add(askName(asked), wordsOf(asked).join(' '), '')
    }
    for (const piece of pieces)
      if (roles[piece.id] === 'account')
        add(accountName(piece), wordsOf(placeholderIn(piece.value) ?? piece.name).join(' ') || 'account', piece.value)
  }
  return [...found.values()].slice(0, 10)
}

/** Segments that all addresses begin with, in a template's spelling; each keeps one of its own. */
function sharedSegments(requests: readonly UnderstoodRequest[]): string[] {
  const all = requests.map((one) => segmentsOf(one))
  const [first = [], ...others] = all
  const most = Math.min(...all.map((segments) => segments.length - 1))
  const shared: string[] = []
  for (let at = 0; at < most; at++) {
    const { text, role } = first[at]!
    if ((role !== 'fixed' && role !== 'account') || others.some((segments) => segments[at]!.text !== text)) break
    // What is asked for by name, such as lists, stays with its request.
    if (requests.length === 1 && !/^(?:api|rest|v\d+(?:\.\d+)*|\d+(?:\.\d+)+)$/i.test(text)) break
    shared.push(text)
  }
  return shared
}

function segmentsOf({ request, pieces, roles }: UnderstoodRequest): { text: string; role: Role }[] {
  return partsOfAddress(request.address).segments.map((segment, at) => {
    const role = roles[`path/${at}`] ?? 'fixed'
    const piece = pieces.find(({ id }) => id === `path/${at}`) ?? { name: '', value: segment }
    return { role, text: role === 'fixed' ? literal(segment) : (placeholderOf(role, piece) ?? literal(segment)) }
  })
}

/** A segment that is sent as it is: braces would be taken for something to be filled in. */
const literal = (segment: string) => segment.replaceAll('{', '%7B').replaceAll('}', '%7D')

/** What stands in a template for a value; null for one that stays as it is. */
function placeholderOf(role: Role, piece: Pick<Piece, 'name' | 'value'>): string | null {
  switch (role) {
    case 'account':
      return `{${accountName(piece)}}`
    case 'list':
    case 'email':
    case 'id':
    case 'fields':
    case 'tags':
    case 'asks':
    case 'name':
    case 'cursor':
    case 'page':
    case 'offset':
      return `{${role}}`
    case 'email-md5':
      return '{emailMd5}'
    case 'email-sha256':
      return '{emailSha256}'
    case 'tag-ids':
      return '{tagIds}'
    case 'field':
      return '{value}'
    default:
      return null
  }
}

function requestFrom(understood: UnderstoodRequest, shared: readonly string[]): ServiceRequest {
  const { request, roles, step } = understood
  const segments = segmentsOf(understood).slice(shared.length)
  const named = (role: Role) => (step === 'makeTag' && role === 'name' ? '{tag}' : null)
  const context: TemplateContext = { roles, named, step, hasContainer: hasContainer(roles, request) }
  const pairs = (kind: 'query' | 'form', all: readonly { name: string; value: string }[]) =>
    pairTemplates(all, (at) => roles[`${kind}/${at}`] ?? 'fixed', context)
  const query = pairs('query', partsOfAddress(request.address).query)
  const { body } = request
  return {
    method: request.method,
    address: `/${segments.map(({ text }) => text).join('/')}`,
    ...(query.length > 0 && { query }),
    ...(body?.kind === 'form' && { form: pairs('form', body.pairs) }),
    ...(body?.kind === 'json' && { json: jsonTemplate(body.value, '', context) ?? {} }),
  }
}

function pairTemplates(
  all: readonly { name: string; value: string }[],
  roleAt: (at: number) => Role,
  { named, hasContainer: hasPlace }: TemplateContext,
): { name: string; value: string; each?: string }[] {
  const templates: { name: string; value: string; each?: string }[] = []
  all.forEach(({ name, value }, at) => {
    const role = roleAt(at)
    if (role === 'left-out' || role === 'key' || role === 'key-second') return
    if (role === 'field' || role === 'fields') {
      const [, before] = /^([^[\]]+)\[[^[\]]*\]/.exec(name) ?? []
      if (before === undefined && hasPlace) {
        templates.push({ name, value: `{fields.${name}}` })
        return
      }
      const template = { name: before === undefined ? '{key}' : `${before}[{key}]`, value: '{value}', each: 'fields' }
      if (!templates.some((one) => one.name === template.name)) templates.push(template)
      return
    }
    if ((role === 'tags' || role === 'tag-ids') && /\[\d*\]$/.test(name)) {
      if (!templates.some((one) => one.name === name))
        templates.push({ name, value: '{value}', each: role === 'tags' ? 'tags' : 'tagIds' })
      return
    }
    templates.push({ name, value: named(role) ?? placeholderOf(role, { name, value }) ?? value })
  })
  return templates
}

interface TemplateContext {
  roles: Roles
  named: (role: Role) => string | null
  step: RequestName
  /** Whether fields have a place of their own, so that those beside it are filled each by itself. */
  hasContainer: boolean
}

/** Whether some value holds all fields, as an object, a list or parts of a form in brackets. */
function hasContainer(roles: Roles, { body }: ExampleRequest): boolean {
  if (Object.values(roles).includes('fields')) return true
  return (
    body?.kind === 'form' && body.pairs.some(({ name }, at) => roles[`form/${at}`] === 'field' && name.includes('['))
  )
}

function jsonTemplate(value: JsonTemplate, pointer: string, context: TemplateContext): JsonTemplate | undefined {
  const { roles, named } = context
  const role = roles[`json${pointer}`] ?? 'fixed'
  if (role === 'left-out' || role === 'key' || role === 'key-second') return undefined
  const inside = (part: JsonTemplate, name: string | number) =>
    jsonTemplate(part, `${pointer}${pointerStep(name)}`, context)
  if (Array.isArray(value)) {
    // A list of people that takes one as well.
    if (role === 'people' && context.step === 'put') return [inside(value[0]!, 0) ?? {}]
    if (role === 'people') return { each: 'people', as: inside(value[0]!, 0) ?? {} }
    if (role === 'fields') return pairList(value, 'fields', inside)
    if (role === 'tags' && value.some((item) => item !== null && typeof item === 'object'))
      return pairList(value, 'tags', inside)
    if (role === 'tags' || role === 'tag-ids') return placeholderOf(role, { name: '', value: '' })!
    return value.flatMap((item, at) => inside(item, at) ?? [])
  }
  if (value !== null && typeof value === 'object') {
    if (role === 'fields') return '{fields}'
    const parts = Object.entries(value) as [string, JsonTemplate][]
    const kept = parts.flatMap(([name, part]): [string, JsonTemplate][] => {
      if (roles[`json${pointer}${pointerStep(name)}`] === 'field')
        return context.hasContainer ? [[name, `{fields.${name}}`]] : []
      const template = inside(part, name)
      return template === undefined ? [] : [[name, template]]
    })
    const hasFields =
      !context.hasContainer &&
      kept.length < parts.length &&
      parts.some(([name]) => roles[`json${pointer}${pointerStep(name)}`] === 'field')
    return Object.fromEntries([...kept, ...(hasFields ? [[SPREAD, '{fields}'] as [string, JsonTemplate]] : [])])
  }
  if (role === 'tags') return '{tagText}'
  if (role === 'list' && typeof value === 'number') return '{listNumber}'
  return named(role) ?? placeholderOf(role, { name: pointer.split('/').at(-1) ?? '', value: String(value) }) ?? value
}

/** A list of names with values, or of objects that each hold a tag: its items for each, beside the one of the address. */
function pairList(
  items: readonly JsonTemplate[],
  each: 'fields' | 'tags',
  inside: (part: JsonTemplate, at: number) => JsonTemplate | undefined,
): JsonTemplate {
  const own: JsonTemplate[] = []
  let as: JsonTemplate | null = null
  items.forEach((item, at) => {
    const template = inside(item, at)
    if (template === undefined) return
    if (JSON.stringify(template).includes('"{email}"')) own.push(template)
    else if (as === null && item !== null && typeof item === 'object' && !Array.isArray(item)) {
      const pair = pairKeys(item)
      const [first] = Object.keys(item)
      as =
        each === 'fields' && pair !== null
          ? { ...item, [pair.key]: '{key}', [pair.value]: '{value}' }
          : { ...item, [Object.keys(item).find((name) => /name|tag|label|title/i.test(name)) ?? first!]: '{value}' }
    }
  })
  return [...own, { each, as: as ?? { name: '{key}', value: '{value}' } }]
}

/** Headers that go along with every request, by any example that has them. */
function fixedHeaders(requests: readonly UnderstoodRequest[]): Record<string, string> {
  const headers: Record<string, string> = {}
  for (const { request, roles } of requests)
    request.headers.forEach(({ name, value }, at) => {
      if (roles[`header/${at}`] === 'fixed' && /^[\x20-\x7e]*$/.test(value)) headers[name] ??= value.slice(0, 500)
      // A type of its own over JSON (RFC 6839) has to be named.
      if (/^content-type$/i.test(name) && /\+json/i.test(value)) headers['Content-Type'] ??= value
    })
  return headers
}

/** How an example spells dates, where that is not as in ISO 8601; null where none tells, or day and month cannot be told apart. */
function datesSpelledIn(requests: readonly UnderstoodRequest[]): string | null {
  for (const { pieces, roles } of requests)
    for (const { id, value } of pieces) {
      const isField = roles[id] === 'field' || (id.startsWith('json/') && roles[id] === undefined)
      const [, one = '', sign = '', other = ''] = /^(\d\d)([./-])(\d\d)[./-]\d{4}$/.exec(value) ?? []
      if (!isField || one === '') continue
      if (Number(one) > 12) return `DD${sign}MM${sign}YYYY`
      if (Number(other) > 12) return `MM${sign}DD${sign}YYYY`
    }
  return null
}

/** Keys of fields that an example puts somebody with. */
export function fieldsBeside(requests: readonly UnderstoodRequest[]): string[] {
  const put = requests.find(({ step }) => step === 'put')
  if (put === undefined) return []
  const { request, pieces, roles } = put
  const names = new Set<string>()
  for (const { id, name } of pieces) {
    if (roles[id] === 'field') names.add(/\[([^[\]]+)\]$/.exec(name)?.[1] ?? name)
    if (roles[id] !== 'fields' || request.body?.kind !== 'json') continue
    const value = id
      .slice('json'.length)
      .split('/')
      .slice(1)
      .reduce<JsonTemplate | undefined>((found, key) => {
        const own = key.replaceAll('~1', '/').replaceAll('~0', '~')
        return found !== null && typeof found === 'object' ? (found as Record<string, JsonTemplate>)[own] : undefined
      }, request.body.value)
    if (Array.isArray(value))
      value.forEach((item, at) => {
        const pair = pairKeys(item)
        if (pair !== null && roles[`${id}/${at}/${pair.value}`] !== 'email')
          names.add(String((item as Record<string, JsonTemplate>)[pair.key]))
      })
    else if (value !== null && typeof value === 'object') for (const key of Object.keys(value)) names.add(key)
  }
  return [...names].filter((name) => name !== '').slice(0, 50)
}
