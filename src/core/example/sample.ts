import type { JsonTemplate } from '#core/connection'
import { isAskWord, isEmailWord, isFieldWord, isListWord, isTagWord, wordsOf } from './words'

/** A schema of JSON Schema or OpenAPI, as far as it is read. */
export type Schema = Record<string, JsonTemplate>
const isObject = (value: unknown): value is Schema =>
  value !== null && typeof value === 'object' && !Array.isArray(value)
const DEEPEST = 6
const MOST_PARTS = 60

/**
 * A value as a schema describes it: its example where it has one, else its name to be filled in. Of what somebody sends, parts
 * that are not needed are left out, unless they are what a hand-over is about.
 */
export function sampleOf(schema: Schema, name: string, { isAnswer = false, depth = 0 } = {}): JsonTemplate {
  if (depth > DEEPEST || typeof schema.$ref === 'string') return null
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
    return sampleOf({ ...joined, ...without(schema, 'allOf') }, name, { isAnswer, depth: depth + 1 })
  }
  if (first !== undefined) {
    const chosen = first.filter(isObject).find((one) => one.type !== 'null')
    return chosen === undefined ? null : sampleOf(chosen, name, { isAnswer, depth: depth + 1 })
  }
  const given = schema.example ?? (Array.isArray(schema.examples) ? schema.examples[0] : undefined) ?? schema.const
  if (given !== undefined && (isAnswer || typeof given === 'object' || schema.const !== undefined)) return given
  const type = Array.isArray(schema.type) ? schema.type.find((one) => one !== 'null') : schema.type
  if (isObject(schema.properties) || type === 'object') return objectOf(schema, { isAnswer, depth })
  if (type === 'array') {
    const items = isObject(schema.items) ? sampleOf(schema.items, name, { isAnswer, depth: depth + 1 }) : name
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

function objectOf(schema: Schema, { isAnswer, depth }: { isAnswer: boolean; depth: number }): JsonTemplate {
  const properties = isObject(schema.properties) ? schema.properties : {}
  const required = Array.isArray(schema.required) ? schema.required : []
  const parts = Object.entries(properties)
    .filter(([, part]) => isObject(part) && (isAnswer || part.readOnly !== true))
    .filter(([name, part]) => isAnswer || required.includes(name) || isAbout(name, part as Schema))
    .slice(0, MOST_PARTS)
  return Object.fromEntries(
    parts.map(([name, part]) => [name, sampleOf(part as Schema, name, { isAnswer, depth: depth + 1 })]),
  )
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
