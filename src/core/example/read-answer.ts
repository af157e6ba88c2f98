import { type JsonTemplate, linkedNext, type RequestName } from '#core/connection'
import { parsedJson, pointerStep } from '#core/json'
import type { Role } from './roles'
import type { AnswerReading } from './service-from'
import { isEmailWord, isFieldWord, isIdWord, isListWord, isTagWord, wordsOf } from './words'

/** What of an answer is read, by what was asked; what has to be there comes first. */
export const readParts = {
  account: ['name'],
  lists: ['id', 'name', 'count'],
  fields: ['key', 'name', 'kind', 'required'],
  find: ['email', 'id', 'status', 'list', 'fields', 'tags'],
  members: ['email', 'id', 'status', 'list', 'fields', 'tags'],
  put: ['status', 'id'],
  putMany: ['email'],
  tags: ['id', 'name'],
  makeTag: ['id'],
} as const satisfies Partial<Record<RequestName, readonly string[]>>
export type ReadStep = keyof typeof readParts

/** Steps whose answers hold several of what was asked for. */
const MANY: ReadonlySet<RequestName> = new Set(['lists', 'fields', 'members', 'tags', 'putMany'])
export const bringsMany = (step: RequestName) => MANY.has(step)

/** An answer that was pasted, or came. */
export interface ExampleAnswer {
  status?: number
  /** By name in small letters. */
  headers?: Readonly<Record<string, string>>
  body: string
}

type Json = JsonTemplate
type JsonObject = Record<string, Json>
const DEEPEST = 6
const isObject = (value: Json | undefined): value is JsonObject =>
  value !== null && value !== undefined && typeof value === 'object' && !Array.isArray(value)
const isScalar = (value: Json | undefined): value is string | number =>
  typeof value === 'string' || typeof value === 'number'

/**
 * A guess of where things stand in an answer.
 *
 * @param email whom it is about, where somebody was asked for
 * @param asked roles of the request's own values: a parameter for a page says how pages are counted
 */
export function guessReading(
  step: RequestName,
  answer: ExampleAnswer,
  { email = '', asked = [] }: { email?: string; asked?: readonly Role[] } = {},
): AnswerReading {
  const json = parsedJson(answer.body) as Json | undefined
  if (json === undefined || !(step in readParts)) return {}
  if (MANY.has(step)) {
    const items = likeliestItems(step as ReadStep, json, email)
    if (items === null) return {}
    const next = guessNext(answer, json, asked)
    return {
      items: items.pointer,
      ...readOf(step as ReadStep, items.items, email),
      ...(next !== undefined && { next }),
    }
  }
  if (step === 'find' || step === 'put') {
    const person = personIn(json, email)
    if (person === null) return step === 'put' ? {} : { read: {} }
    const { read = {}, ...rest } = readOf(step, [person.value], email)
    // Where fields go along beside the address, they come so, too.
    if (step === 'find' && read.fields === undefined && asked.includes('field')) read.fields = ''
    return {
      read: Object.fromEntries(Object.entries(read).map(([part, pointer]) => [part, person.pointer + pointer])),
      ...rest,
    }
  }
  if (step === 'makeTag') {
    const id = firstLeaf(json, (key) => isIdWord(key))
    return id === null ? {} : { read: { id } }
  }
  const called = [
    'name',
    'display_?name',
    'company',
    'organi[sz]ation',
    'account_?name',
    'title',
    'owner',
    'login',
  ].map((word) => new RegExp(`^${word}$`, 'i'))
  const name =
    called.reduce<string | null>((found, word) => found ?? firstLeaf(json, (key) => word.test(key)), null) ??
    firstLeaf(json, (key) => isEmailWord(key))
  return name === null ? {} : { read: { name } }
}

/** The list of objects in an answer that looks most like what was asked for. */
function likeliestItems(step: ReadStep, json: Json, email: string): { pointer: string; items: Json[] } | null {
  const all = listsIn(json)
  const score = ({ pointer, items }: (typeof all)[number]) => {
    const { read = {} } = readOf(step, items, email)
    const name = pointer.split('/').at(-1) ?? ''
    const isNamed =
      (step === 'lists' && isListWord(name)) ||
      (step === 'fields' && isFieldWord(name)) ||
      (step === 'tags' && isTagWord(name))
    return Object.keys(read).length * 2 + (isNamed ? 3 : 0) - pointer.split('/').length
  }
  const [best] = all.toSorted((one, other) => score(other) - score(one))
  return best ?? null
}

function listsIn(value: Json, pointer = '', depth = 0): { pointer: string; items: Json[] }[] {
  if (depth > DEEPEST) return []
  if (Array.isArray(value)) return value.some(isObject) ? [{ pointer, items: value }] : []
  if (!isObject(value)) return []
  return Object.entries(value).flatMap(([key, part]) => listsIn(part, `${pointer}${pointerStep(key)}`, depth + 1))
}

/** Where each part stands in items, by their names and values. */
function readOf(step: ReadStep, items: readonly Json[], email: string): AnswerReading {
  const [first] = items
  if (!isObject(first)) return {}
  const picked = new Picked(leavesOf(first))
  switch (step) {
    case 'fields':
      pickField(picked)
      return { read: picked.read }
    case 'find':
    case 'members':
    case 'put':
    case 'putMany':
      pickMember(picked, step, email)
      return step === 'find' || step === 'members' ? withParts(picked, first) : { read: picked.read }
    default:
      pickList(picked, step)
      return { read: picked.read }
  }
}

type Test = (leaf: Leaf) => boolean

/** Parts of an answer and where they stand; no place stands for two. */
class Picked {
  readonly read: Record<string, string> = {}

  constructor(private readonly leaves: readonly Leaf[]) {}

  /** The first leaf that passes the first test that any passes. */
  pick(part: string, ...tests: Test[]): void {
    for (const test of tests) {
      const found = this.leaves.find((leaf) => !Object.values(this.read).includes(leaf.pointer) && test(leaf))
      if (found === undefined) continue
      this.read[part] = found.pointer
      return
    }
  }
}

const called =
  (pattern: RegExp): Test =>
  (leaf) =>
    isScalar(leaf.value) && pattern.test(leaf.key)

function pickMember(picked: Picked, step: ReadStep, email: string): void {
  picked.pick(
    'email',
    (leaf) => email !== '' && String(leaf.value).toLowerCase() === email.toLowerCase(),
    (leaf) => typeof leaf.value === 'string' && leaf.value.includes('@'),
    (leaf) => isEmailWord(leaf.key) && isScalar(leaf.value),
  )
  if (step === 'putMany') return
  picked.pick(
    'id',
    called(/^(?:id|uuid|uid|number|_id|key)$/i),
    (leaf) => isScalar(leaf.value) && isIdWord(leaf.key) && !isListWord(leaf.key),
  )
  picked.pick(
    'status',
    called(/^(?:status|state|standing|subscription_?status)$/i),
    (leaf) => /status|state|standing/i.test(leaf.key) && isScalar(leaf.value),
  )
}

/** With the list, the fields and the tags that somebody is there with. */
function withParts(picked: Picked, member: JsonObject): AnswerReading {
  const { read } = picked
  picked.pick('list', (leaf) => isScalar(leaf.value) && isListWord(leaf.key))
  const parts = partsIn(member)
  const fields = parts.find(({ key, value }) => isFieldWord(key) && value !== null && typeof value === 'object')
  if (fields !== undefined) read.fields = fields.pointer
  const tags = parts.find(({ key, value }) => isTagWord(key) && (Array.isArray(value) || typeof value === 'string'))
  if (tags === undefined) return { read }
  read.tags = tags.pointer
  const [tag] = Array.isArray(tags.value) ? tags.value : []
  const named = isObject(tag) ? Object.keys(tag).find((key) => /name|tag|label|title/i.test(key)) : undefined
  return named === undefined ? { read } : { read, tagName: `${pointerStep(named)}` }
}

function pickField(picked: Picked): void {
  picked.pick(
    'key',
    called(/^(?:key|tag|code|slug|field_?name|api_?name)$/i),
    called(/^name$/i),
    called(/^id$/i),
    (leaf) => isIdWord(leaf.key),
  )
  picked.pick(
    'name',
    called(/^(?:label|title|display_?name|words|caption|field_?label|description|question)$/i),
    called(/^name$/i),
  )
  picked.pick('kind', called(/^(?:type|kind|sort|data_?type|field_?type|format)$/i))
  picked.pick(
    'required',
    ({ key, value }) =>
      typeof value === 'boolean' && /^(?:required|is_?required|must|mandatory|compulsory)$/i.test(key),
  )
}

function pickList(picked: Picked, step: ReadStep): void {
  picked.pick(
    'id',
    called(/^(?:id|list_?id|uuid|_id|number)$/i),
    called(/^(?:key|slug|code|hash|token)$/i),
    (leaf) => isScalar(leaf.value) && isIdWord(leaf.key),
  )
  picked.pick(
    'name',
    called(/^(?:name|title|label|display_?name|list_?name|tag)$/i),
    (leaf) => /name|title/i.test(leaf.key) && isScalar(leaf.value),
  )
  const isCount = called(/(?:count|members?|subscribers?|people|contacts?|readers?|size|total|active)/i)
  if (step === 'lists') picked.pick('count', (leaf) => typeof leaf.value === 'number' && isCount(leaf), isCount)
}

interface Leaf {
  key: string
  value: Json
  pointer: string
}

/** Values of an object that are no containers, those nearest to it first. */
function leavesOf(value: JsonObject): Leaf[] {
  const found: Leaf[] = []
  let level: { value: JsonObject; pointer: string }[] = [{ value, pointer: '' }]
  for (let depth = 0; depth < 3 && level.length > 0; depth++) {
    const below: typeof level = []
    for (const one of level)
      for (const [key, part] of Object.entries(one.value)) {
        const pointer = `${one.pointer}${pointerStep(key)}`
        if (isObject(part)) below.push({ value: part, pointer })
        else if (!Array.isArray(part)) found.push({ key, value: part, pointer })
      }
    level = below
  }
  return found
}

function partsIn(value: JsonObject): Leaf[] {
  const own = Object.entries(value).map(([key, part]) => ({ key, value: part, pointer: `${pointerStep(key)}` }))
  const below = own.flatMap(({ value: part, pointer }) =>
    isObject(part)
      ? Object.entries(part).map(([key, one]) => ({ key, value: one, pointer: `${pointer}${pointerStep(key)}` }))
      : [],
  )
  return [...own, ...below]
}

/** The innermost object that holds somebody's address itself. */
function personIn(json: Json, email: string, pointer = '', depth = 0): { pointer: string; value: JsonObject } | null {
  if (depth > DEEPEST) return null
  if (Array.isArray(json)) {
    for (let at = 0; at < Math.min(json.length, 20); at++) {
      const found = personIn(json[at]!, email, `${pointer}/${at}`, depth + 1)
      if (found !== null) return found
    }
    return null
  }
  if (!isObject(json)) return null
  const isOwn = Object.entries(json).some(
    ([key, value]) =>
      typeof value === 'string' &&
      (email === '' ? value.includes('@') || isEmailWord(key) : value.toLowerCase() === email.toLowerCase()),
  )
  if (isOwn) return { pointer, value: json }
  for (const [key, part] of Object.entries(json)) {
    const found = personIn(part, email, `${pointer}${pointerStep(key)}`, depth + 1)
    if (found !== null) return found
  }
  return null
}

function firstLeaf(json: Json, test: (key: string) => boolean): string | null {
  if (Array.isArray(json)) {
    const inside = json[0] === undefined ? null : firstLeaf(json[0], test)
    return inside === null ? null : `/0${inside}`
  }
  if (!isObject(json)) return null
  return leavesOf(json).find(({ key, value }) => isScalar(value) && test(key))?.pointer ?? null
}

/** How the next page is asked for, by what an answer tells and what the request can say. */
function guessNext({ headers = {} }: ExampleAnswer, json: Json, asked: readonly Role[]): AnswerReading['next'] {
  if (linkedNext(headers.link ?? '') !== null) return { link: true }
  const leaves = isObject(json) ? leavesOf(json) : []
  const next = leaves.find(
    ({ key, value, pointer }) =>
      (typeof value === 'string' || typeof value === 'number' || value === null) && isNextName(key, pointer),
  )
  if (next !== undefined && typeof next.value === 'string' && /^(?:https?:\/\/|\/|\?)/.test(next.value))
    return { address: next.pointer }
  if (asked.includes('cursor')) {
    if (next !== undefined) return { cursor: next.pointer }
    const header = Object.keys(headers).find((name) => /cursor|next/i.test(name))
    if (header !== undefined) return { header }
  }
  if (asked.includes('page')) return { page: true }
  if (asked.includes('offset')) return { offset: true }
  return undefined
}

function isNextName(key: string, pointer: string): boolean {
  const words = wordsOf(key)
  if (words.includes('previous') || words.includes('prev') || words.includes('has')) return false
  return (
    words.includes('next') ||
    words.includes('cursor') ||
    words.includes('after') ||
    (/\/next\//.test(pointer) && words.includes('href'))
  )
}

/** What its owner pressed in an answer, as a reading: where one thing stands, and of several the list that they stand in. */
export function withPressed(reading: AnswerReading, step: RequestName, part: string, pointer: string): AnswerReading {
  if (part === 'next') return { ...reading, next: { cursor: pointer } }
  if (!MANY.has(step)) return { ...reading, read: { ...reading.read, [part]: pointer } }
  const segments = pointer.split('/')
  const isInside =
    reading.items !== undefined &&
    pointer.startsWith(`${reading.items}/`) &&
    /^\d+(?:\/|$)/.test(pointer.slice(reading.items.length + 1))
  const at = isInside ? reading.items!.split('/').length : segments.findIndex((segment) => /^\d+$/.test(segment))
  if (at < 0) return { ...reading, read: { ...reading.read, [part]: pointer } }
  const items = segments.slice(0, at).join('/')
  const rest = segments
    .slice(at + 1)
    .map((segment) => `/${segment}`)
    .join('')
  // In another list than before, nothing that was read stands where it stood.
  return { ...reading, items, read: { ...(items === reading.items ? reading.read : {}), [part]: rest } }
}

/** Where an answer that says no tells why, in words; null where it does not. */
export function guessSaid({ body }: ExampleAnswer): string | null {
  const json = parsedJson(body) as Json | undefined
  if (!isObject(json)) return null
  const leaves = leavesOf(json).filter(({ value }) => typeof value === 'string' && value.trim() !== '')
  const words = ['message', 'detail', 'error_description', 'description', 'error', 'reason', 'words', 'title']
  for (const word of words) {
    const found = leaves.find(({ key, value }) => key.toLowerCase() === word && /\s/.test(String(value)))
    if (found !== undefined) return found.pointer
  }
  return leaves.find(({ value }) => String(value).split(' ').length > 2)?.pointer ?? null
}
