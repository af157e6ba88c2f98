import type { JsonTemplate, RequestName } from '#core/connection'
import { pointerStep } from '#core/json'
import type { ExampleRequest } from './example-request'
import { decoded, partsOfAddress, type Piece, type PieceId } from './pieces'
import {
  isAccountWord,
  isAskWord,
  isCursorWord,
  isEmailValue,
  isEmailWord,
  isFieldWord,
  isIdWord,
  isKeyWord,
  isListWord,
  isManyWord,
  isOffWord,
  isOneOfMany,
  isPeopleWord,
  isSecretWord,
  isTagWord,
  placeholderIn,
  wordsOf,
} from './words'

/** What a value of an example stands for. */
export const roles = [
  'fixed',
  'left-out',
  'key',
  'key-second',
  /** Asked of the owner once: an account's number, a region. */
  'account',
  'list',
  'email',
  'email-md5',
  'email-sha256',
  'id',
  /** An object or a list of all fields. */
  'fields',
  /** One field beside the address. */
  'field',
  'tags',
  'tag-ids',
  /** Whether the service is to ask for confirmation. */
  'asks',
  /** A list of several people. */
  'people',
  /** Of a field or a tag to be made. */
  'name',
  'cursor',
  'page',
  'offset',
] as const
export type Role = (typeof roles)[number]
export type Roles = Readonly<Record<PieceId, Role>>

/** Headers that are written by whoever sends, whatever an example has. */
const OWN_HEADERS =
  /^(?:content-type|content-length|accept|accept-encoding|accept-language|user-agent|host|connection|cookie|origin|referer|cache-control)$/i
/** What stands beside an address and is none of the person's own fields. */
const NO_FIELD = new Set([
  ...['id', 'ids', 'form'],
  ...[
    'status',
    'state',
    'standing',
    'type',
    'source',
    'format',
    'ip',
    'update',
    'overwrite',
    'resubscribe',
    'send',
    'trigger',
  ],
  ...[
    'mode',
    'reactivate',
    'existing',
    'force',
    'method',
    'action',
    'upsert',
    'created',
    'updated',
    'subscribed',
    'limit',
    'version',
  ],
])

/** A first guess of what each value stands for; its owner corrects it. */
export function guessRoles(request: ExampleRequest, pieces: readonly Piece[]): Roles {
  const guessed: Record<PieceId, Role> = {}
  const keys: PieceId[] = []
  const take = (id: PieceId, role: Role) => {
    guessed[id] = role
    if (role === 'key') keys.push(id)
  }
  const { segments, query } = partsOfAddress(request.address)
  segments.forEach((segment, at) => take(`path/${at}`, roleOfSegment(segments, at, segment)))
  query.forEach(({ name, value }, at) => take(`query/${at}`, roleOfParameter(name, value)))
  request.headers.forEach(({ name, value }, at) =>
    take(`header/${at}`, OWN_HEADERS.test(name) ? 'left-out' : isKeyPiece(name, value) ? 'key' : 'fixed'),
  )
  for (const [id, role] of userRoles(request.user)) take(id, role)
  const { body } = request
  if (body?.kind === 'form') {
    const hasAddress = body.pairs.some(({ name, value }) => isAddressPart(name, value))
    body.pairs.forEach(({ name, value }, at) => take(`form/${at}`, roleOfPair(name, value, hasAddress)))
  }
  if (body?.kind === 'json') {
    const isAbout = Object.values(guessed).some(
      (role) => role === 'email' || role.startsWith('email-') || role === 'id',
    )
    guessJson(body.value, take, isAbout)
  }
  // Of two keys, the one that is called a secret is the second.
  const [one, other] = keys.filter((id) => !id.startsWith('user/'))
  if (one !== undefined && other !== undefined) {
    const name = (id: PieceId) => pieces.find((piece) => piece.id === id)?.name ?? ''
    const isTurned = isSecretWord(name(one)) && !isSecretWord(name(other))
    guessed[isTurned ? one : other] = 'key-second'
  }
  if (!Object.values(guessed).some((role) => role === 'email' || role === 'email-md5' || role === 'email-sha256'))
    guessName(request, guessed, pieces)
  return guessed
}

function roleOfSegment(segments: readonly string[], at: number, segment: string): Role {
  const before = segments[at - 1] ?? ''
  const asked = placeholderIn(segment) ?? ''
  if (/hash|md5/i.test(asked) || /^[\da-f]{32}$/i.test(segment))
    return /sha/i.test(asked) ? 'email-sha256' : 'email-md5'
  if (/sha-?256/i.test(asked) || /^[\da-f]{64}$/i.test(segment)) return 'email-sha256'
  if (isEmailValue(decoded(segment))) return 'email'
  if (!isOneOfMany(segment)) return 'fixed'
  // A version's number.
  if (/^\d{1,2}(?:\.\d+)*$/.test(segment) && !isListWord(before) && !isPeopleWord(before) && !isAccountWord(before))
    return 'fixed'
  if (asked !== '' && isKeyWord(asked)) return 'key'
  if (asked !== '' && isListWord(asked)) return 'list'
  if (isListWord(before)) return 'list'
  if (asked !== '' && isAccountWord(asked)) return 'account'
  if (isPeopleWord(before) || (asked !== '' && isPeopleWord(asked)))
    return isAccountWord(before) && !isPeopleWord(before) ? 'account' : 'id'
  if (isAccountWord(before)) return 'account'
  return asked === 'id' ? 'id' : 'account'
}

function roleOfParameter(name: string, value: string): Role {
  const words = wordsOf(name)
  if (isKeyPiece(name, value)) return 'key'
  if (isAddressPart(name, value)) return 'email'
  if (isListWord(name)) return 'list'
  if (isCursorWord(name)) return 'cursor'
  if (words.includes('offset') || words.includes('skip')) return 'offset'
  if (!words.includes('per') && (words.at(-1) === 'page' || (words[0] === 'page' && !words.includes('size'))))
    return 'page'
  if (/^(?:q|query|search|filter)$/i.test(name) && isEmailValue(value)) return 'email'
  return placeholderIn(value) === null ? 'fixed' : isPeopleWord(name) || words.includes('id') ? 'id' : 'left-out'
}

const isKeyPiece = (name: string, value: string) => {
  const asked = placeholderIn(value.split(' ').at(-1) ?? '')
  return (isKeyWord(name) || (asked !== null && isKeyWord(asked))) && !isEmailValue(value)
}

const isAddressPart = (name: string, value: string) =>
  isEmailValue(value) ||
  (isEmailWord(name) &&
    !isIdWord(name) &&
    !/type|format|count|subject|text/i.test(name) &&
    value !== 'true' &&
    value !== 'false')

/** `-u key:` has the key as user; `-u anything:key` as password; two of them are a key in two parts. */
function userRoles(user: string | null): [PieceId, Role][] {
  if (user === null) return []
  const colon = user.indexOf(':')
  const [first, second] = colon < 0 ? [user, ''] : [user.slice(0, colon), user.slice(colon + 1)]
  if (second === '' || /^x+$/i.test(second))
    return colon < 0
      ? [['user/0', 'key']]
      : [
          ['user/0', 'key'],
          ['user/1', 'fixed'],
        ]
  const isWord = /^[a-z]{1,12}$/.test(first) && placeholderIn(first) === null
  return isWord
    ? [
        ['user/0', 'fixed'],
        ['user/1', 'key'],
      ]
    : [
        ['user/0', 'key'],
        ['user/1', 'key-second'],
      ]
}

function roleOfPair(name: string, value: string, hasAddress: boolean): Role {
  const [, before = name, inside] = /^([^[\]]+)\[([^[\]]*)\]/.exec(name) ?? []
  if (isKeyPiece(name, value)) return 'key'
  if (isTagWord(before)) return /id|number/i.test(name) ? 'tag-ids' : 'tags'
  if (isAddressPart(inside === undefined || inside === '' ? before : inside, value)) return 'email'
  if (isListWord(before)) return 'list'
  if (isAskWord(name) && /^(?:true|false|yes|no|0|1|on|off)$/i.test(value)) return 'asks'
  if (inside !== undefined && inside !== '' && isFieldWord(before)) return 'field'
  if (/^(?:true|false)$/.test(value)) return 'fixed'
  return hasAddress && isField(name) ? 'field' : 'fixed'
}

const isField = (name: string) => !wordsOf(name).some((word) => NO_FIELD.has(word))

type Take = (id: PieceId, role: Role) => void
type JsonObject = Record<string, JsonTemplate>
const isObject = (value: JsonTemplate | undefined): value is JsonObject =>
  value !== null && value !== undefined && typeof value === 'object' && !Array.isArray(value)

/** The parts of an item of a list of names with values: which of them is the name, and which the value. */
export function pairKeys(item: JsonTemplate | undefined): { key: string; value: string } | null {
  if (!isObject(item)) return null
  const names = Object.keys(item)
  const value = names.find((name) => /^(?:value|v|content|data|answer|text)$/i.test(name))
  const key = names.find(
    (name) =>
      name !== value && /^(?:key|k|name|field|fieldid|field_id|id|tag|code|slug|question|attribute)$/i.test(name),
  )
  return key === undefined || value === undefined ? null : { key, value }
}

/** @param isAbout whether the address names somebody, so that the body is theirs */
function guessJson(body: JsonTemplate, take: Take, isAbout: boolean): void {
  walk(body, '', '')
  function walk(value: JsonTemplate, pointer: string, name: string): void {
    if (Array.isArray(value)) {
      const isPeople =
        value.length > 0 && value.every((item) => isObject(item) && (hasOwnAddress(item) || hasListedAddress(item)))
      take(`json${pointer}`, isPeople ? 'people' : 'fixed')
      if (isPeople) {
        walk(value[0]!, `${pointer}/0`, name)
        for (let at = 1; at < value.length; at++) take(`json${pointer}/${at}`, 'left-out')
      } else value.forEach((item, at) => walk(item, `${pointer}/${at}`, name))
      return
    }
    if (!isObject(value)) {
      if (pointer === '') take('json', 'fixed')
      return
    }
    take(`json${pointer}`, 'fixed')
    const isPerson = hasOwnAddress(value) || (isAbout && pointer === '')
    for (const [key, part] of Object.entries(value)) {
      const place = `${pointer}${pointerStep(key)}`
      const role = roleOfPart(key, part, isPerson)
      if (role !== null) {
        take(`json${place}`, role)
        if (Array.isArray(part) && role === 'fixed') listOfLists(part, place)
        if (role === 'fields' && Array.isArray(part)) addressAmong(part, place)
      } else walk(part, place, key)
    }
  }
  function listOfLists(items: readonly JsonTemplate[], place: string): void {
    items.forEach((item, at) => {
      if (at > 0) take(`json${place}/${at}`, 'left-out')
      else if (isObject(item))
        for (const key of Object.keys(item)) take(`json${place}/0/${key}`, isIdWord(key) ? 'list' : 'fixed')
      else take(`json${place}/0`, 'list')
    })
  }
  function addressAmong(items: readonly JsonTemplate[], place: string): void {
    items.forEach((item, at) => {
      const pair = pairKeys(item)
      if (pair === null || !isObject(item)) return
      const text = item[pair.value]
      if (typeof text === 'string' && isAddressPart(String(item[pair.key]), text))
        take(`json${place}/${at}/${pair.value}`, 'email')
    })
  }
}

function hasOwnAddress(value: JsonObject): boolean {
  return Object.entries(value).some(
    ([key, part]) => typeof part === 'string' && isAddressPart(key, part) && pairKeys(value) === null,
  )
}

/** Whether the address stands among its fields, as a name with a value. */
function hasListedAddress(value: JsonObject): boolean {
  return Object.values(value).some(
    (part) =>
      Array.isArray(part) &&
      part.some((item) => {
        const pair = pairKeys(item)
        return pair !== null && isObject(item) && isAddressPart(String(item[pair.key]), String(item[pair.value]))
      }),
  )
}

/** Null where its own parts tell. */
function roleOfPart(key: string, part: JsonTemplate, isPerson: boolean): Role | null {
  const isPairs = Array.isArray(part) && part.length > 0 && part.every((item) => pairKeys(item) !== null)
  if (isTagWord(key) && (Array.isArray(part) || typeof part === 'string'))
    return /ids?$|number/i.test(key) || (Array.isArray(part) && part.some((item) => typeof item === 'number'))
      ? 'tag-ids'
      : 'tags'
  if (isListWord(key) && Array.isArray(part) && part.every((item) => !isObject(item) || !hasOwnAddress(item)))
    return 'fixed'
  if (isPairs) return 'fields'
  if (part !== null && typeof part === 'object') {
    const isFlat = isObject(part) && Object.values(part).every((one) => one === null || typeof one !== 'object')
    return isFieldWord(key) && isFlat && isObject(part) && !hasOwnAddress(part) ? 'fields' : null
  }
  const value = String(part)
  if (typeof part === 'string' && isKeyPiece(key, value)) return 'key'
  if (typeof part === 'string' && isAddressPart(key, value)) return 'email'
  if (isListWord(key) && !isFieldWord(key)) return 'list'
  if (isAskWord(key) && (typeof part === 'boolean' || typeof part === 'number')) return 'asks'
  if (typeof part === 'boolean' || part === null) return 'fixed'
  const asked = placeholderIn(value)
  if (asked !== null && isPeopleWord(asked) && isIdWord(asked)) return 'id'
  return isPerson && isField(key) ? 'field' : 'fixed'
}

/** Where nobody is named, something is made: its name is the first that is called so. */
function guessName(request: ExampleRequest, guessed: Record<PieceId, Role>, pieces: readonly Piece[]): void {
  if (request.method === 'GET' || request.method === 'DELETE') return
  const named = pieces.find(
    ({ id, name, shape }) =>
      /^(?:json|form)/.test(id) &&
      shape === 'text' &&
      /^(?:name|label|title|words|tag|text|display_?name|field_?name)$/i.test(name),
  )
  if (named !== undefined) guessed[named.id] = 'name'
}

/** What a request is for; null for what is not needed. */
export function guessStep(request: ExampleRequest, guessed: Roles): RequestName | null {
  const { segments } = partsOfAddress(request.address)
  const words = segments.filter((segment, at) => guessed[`path/${at}`] === 'fixed' && !/^v\d/i.test(segment))
  const last = (words.at(-1) ?? '').replace(/\.(?:json|php|xml)$/i, '')
  const has = (...wanted: Role[]) => Object.values(guessed).some((role) => wanted.includes(role))
  const namesSomebody = has('email', 'email-md5', 'email-sha256')
  if (request.method === 'DELETE') return namesSomebody || has('id') ? 'off' : null
  if (request.method !== 'GET') {
    const isVerb = isOffWord(last) || (words.length > 1 && isOffWord(words.at(-1)!))
    if (isVerb && (namesSomebody || has('id'))) return 'off'
    if (has('people') || (isManyWord(last) && namesSomebody)) return 'putMany'
    if (namesSomebody || has('field', 'fields'))
      return request.method === 'PATCH' || (request.method === 'PUT' && has('id')) ? 'change' : 'put'
    if (has('list') && has('id')) return 'join'
    // Where even what is read is asked for by a body, with the key alone in it.
    const isAsking =
      !has('name', 'list') &&
      Object.entries(guessed).every(
        ([id, role]) => !/^(?:json\/|form)/.test(id) || role === 'key' || role === 'key-second',
      )
    if (isAsking && isListWord(last)) return 'lists'
    if (isAsking && isAccountWord(last)) return 'account'
    if (isFieldWord(last)) return 'makeField'
    if (isTagWord(last)) return 'makeTag'
    return null
  }
  if (namesSomebody) return 'find'
  if (has('id')) return null
  if (isFieldWord(last)) return 'fields'
  if (isTagWord(last)) return 'tags'
  if (isPeopleWord(last) && !isAccountWord(last)) return 'members'
  const endsInList = guessed[`path/${segments.length - 1}`] === 'list'
  if (isListWord(last)) return endsInList ? null : 'lists'
  return isAccountWord(last) ? 'account' : null
}
