import { textAt, valueAt } from './answer'
import type { RequestName, ServiceFile } from './service-file'
import { statusOf, type TheirStatus } from './status'

/** A list of the service's. */
export interface TheirList {
  id: string
  name: string
  /** How many are on it; null where it is not told. */
  count: number | null
}

export const theirKinds = ['text', 'number', 'date', 'choice', 'yes-no', 'web-address'] as const
/** A field of the service's lists. */
export interface TheirField {
  key: string
  name: string
  kind: (typeof theirKinds)[number]
  isRequired: boolean
}

/** Somebody on a list of the service's. */
export interface TheirMember {
  email: string
  id: string | null
  status: TheirStatus
  /** Its own word for it; null where it says none. */
  statusWord: string | null
  /** The list they are on, where it is told. */
  list: string | null
  /** Null where it is not told, as for tags. */
  values: Record<string, string> | null
  tags: string[] | null
}

/** All that an answer lists, read one by one; what has no key is passed over. */
export function itemsIn(service: ServiceFile, name: RequestName, json: unknown): unknown[] {
  const request = service.requests[name]
  const items = valueAt(json, request?.items ?? '')
  return Array.isArray(items) ? items : []
}

export function listsIn(service: ServiceFile, json: unknown): TheirList[] {
  const read = service.requests.lists.read ?? {}
  return itemsIn(service, 'lists', json).flatMap((item) => {
    const id = textAt(item, read.id)
    if (id === null) return []
    const count = Number(textAt(item, read.count) ?? NaN)
    return [{ id, name: textAt(item, read.name) ?? id, count: Number.isFinite(count) ? count : null }]
  })
}

export function fieldsIn(service: ServiceFile, json: unknown): TheirField[] {
  const read = service.requests.fields?.read ?? {}
  return itemsIn(service, 'fields', json).flatMap((item) => {
    const key = textAt(item, read.key)
    if (key === null) return []
    const kind = service.kinds?.[textAt(item, read.kind) ?? ''] ?? 'text'
    return [{ key, name: textAt(item, read.name) ?? key, kind, isRequired: textAt(item, read.required) === 'true' }]
  })
}

export function memberIn(service: ServiceFile, name: 'find' | 'members', json: unknown): TheirMember | null {
  const request = service.requests[name]
  const read = request?.read ?? {}
  const email = textAt(json, read.email)
  if (email === null) return null
  const status = textAt(json, read.status)
  return {
    email,
    id: textAt(json, read.id),
    status: statusOf(service, status),
    statusWord: status,
    list: textAt(json, read.list),
    values: read.fields === undefined ? null : valuesIn(valueAt(json, read.fields)),
    tags: read.tags === undefined ? null : tagsIn(valueAt(json, read.tags), request?.tagName),
  }
}

/** Tags with their ids, read one by one. */
export function tagIdsIn(service: ServiceFile, json: unknown): { id: string | number; name: string }[] {
  const read = service.requests.tags?.read ?? {}
  return itemsIn(service, 'tags', json).flatMap((item) => {
    const id = read.id === undefined ? undefined : valueAt(item, read.id)
    const name = textAt(item, read.name)
    return (typeof id === 'string' || typeof id === 'number') && name !== null ? [{ id, name }] : []
  })
}

/** Values told as an object, or as a list of keys with values. */
function valuesIn(value: unknown): Record<string, string> {
  if (value === null || typeof value !== 'object') return {}
  const pairs = Array.isArray(value)
    ? value.map((one) => [textAt(one, '/key') ?? textAt(one, '/name'), textAt(one, '/value')])
    : Object.entries(value).map(([key, one]) => [key, textAt({ one }, '/one')])
  return Object.fromEntries(pairs.filter((pair): pair is [string, string] => pair[0] !== null && pair[1] !== null))
}

/** Tags told as texts, as objects with a name, or in one text with commas. */
function tagsIn(value: unknown, tagName: string | undefined): string[] {
  if (typeof value === 'string')
    return value
      .split(',')
      .map((tag) => tag.trim())
      .filter(Boolean)
  if (!Array.isArray(value)) return []
  return value.flatMap((one) => (typeof one === 'string' ? [one] : (textAt(one, tagName ?? '/name') ?? [])))
}
