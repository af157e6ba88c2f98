import type { JsonTemplate } from '#core/connection'
import { isAskWord, isEmailWord, isFieldWord, isListWord, isTagWord, wordsOf } from './words'

/** A schema of JSON Schema or OpenAPI, as far as it is read. */
export type Schema = Record<string, JsonTemplate>
const isObject = (value: unknown): value is Schema =>
  value !== null && typeof value === 'object' && !Array.isArray(value)
const DEEPEST = 6
const MOST_PARTS = 60
/** Of a whole sample: what is shared is written out wherever it is named. */
const MOST_VALUES = 3_000

/** Where a walk through a schema is. */
interface Walk {
  isAnswer?: boolean
  depth?: number
  /** Schemas that this one is within: what contains itself is left out. */
  within?: ReadonlySet<object>
  /** How many values may still be written. */
  left?: { values: number }
}

/**
 * A value as a schema describes it: its example where it has one, else its name to be filled in. Of what somebody sends, parts
 * that are not needed are left out, unless they are what a hand-over is about.
 */
export function sampleOf(
  schema: Schema,
  name: string,
  { isAnswer = false, depth = 0, within = new Set(), left = { values: MOST_VALUES } }: Walk = {},
): JsonTemplate {
  left.values -= 1
  if (depth > DEEPEST || left.values < 0 || within.has(schema) || typeof schema.$ref === 'string') return null
  const below: Walk = { isAnswer, depth: depth + 1, within: new Set([...within, schema]), left }
  const [first] = [schema.allOf, schema.oneOf, schema.anyOf].filter(Array.isArray)
  if (Array.isArray(schema.allOf)) {
    const parts = schema.allOf.filter(isObject)
    const joined = parts.reduce<Schema>(
      (all, part) => ({
        ...all,
        ...part,
        properties: {
          ...(isObject(all.properties) ? all.properties : {}),
          ...(isObject(part.properties) ? part.properties : {}),
        },
        required: [
          ...(Array.isArray(all.required) ? all.required : []),
          ...(Array.isArray(part.required) ? part.required : []),
        ],
      }),
      { type: 'object' },
    )
    return sampleOf({ ...joined, ...without(schema, 'allOf') }, name, below)
  }
  if (first !== undefined) {
    const chosen = first.filter(isObject).find((one) => one.type !== 'null')
    return chosen === undefined ? null : sampleOf(chosen, name, below)
  }
  const given = schema.example ?? (Array.isArray(schema.examples) ? schema.examples[0] : undefined) ?? schema.const
  if (given !== undefined && (isAnswer || typeof given === 'object' || schema.const !== undefined)) return given
  const type = Array.isArray(schema.type) ? schema.type.find((one) => one !== 'null') : schema.type
  if (isObject(schema.properties) || type === 'object') return objectOf(schema, isAnswer, below)
  if (type === 'array') {
    const items = isObject(schema.items) ? sampleOf(schema.items, name, below) : name
    return [items]
  }
  if (Array.isArray(schema.enum))
    return (
      schema.enum.find((one) => /^(?:subscribed|active|confirmed|on|enabled)$/i.test(String(one))) ??
      schema.default ??
      schema.enum[0] ??
      null
    )
  if (type === 'boolean') return schema.default ?? false
  if (type === 'integer' || type === 'number') return given ?? schema.default ?? 0
  if (schema.format === 'email' || (isEmailWord(name) && type === 'string'))
    return isAnswer ? 'ada@mail.example' : '{email}'
  return schema.default ?? (isAnswer ? (given ?? name) : name === '' ? '' : `{${name}}`)
}

function objectOf(schema: Schema, isAnswer: boolean, below: Walk): JsonTemplate {
  const properties = isObject(schema.properties) ? schema.properties : {}
  const required = Array.isArray(schema.required) ? schema.required : []
  const parts = Object.entries(properties)
    .filter(([, part]) => isObject(part) && (isAnswer || part.readOnly !== true))
    .filter(([name, part]) => isAnswer || required.includes(name) || isAbout(name, part as Schema))
    .slice(0, MOST_PARTS)
  return Object.fromEntries(parts.map(([name, part]) => [name, sampleOf(part as Schema, name, below)]))
}

/** Whether a part is what a hand-over is about: the address, its list, fields, tags, or whether to ask. */
function isAbout(name: string, schema: Schema): boolean {
  if (isEmailWord(name) || isListWord(name) || isFieldWord(name) || isTagWord(name) || isAskWord(name)) return true
  return (
    schema.type === 'string' && wordsOf(name).some((word) => word === 'name' || word === 'first' || word === 'last')
  )
}

const without = (schema: Schema, part: string): Schema =>
  Object.fromEntries(Object.entries(schema).filter(([name]) => name !== part))
