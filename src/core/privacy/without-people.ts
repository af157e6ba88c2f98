import { z } from 'zod'
import { withoutAddresses } from '#core/text'
import { marks } from './marks'

/**
 * A value for whoever sees no people: what its schema marks as theirs is left out or masked, and it still holds by its
 * schema. What is not described stays as it is.
 */
export function withoutPeople(schema: z.ZodType, value: unknown): unknown {
  const mark = marks.get(schema)?.mark
  if (mark === 'all') return nothingLike(value)
  if (mark === 'addresses') return masked(value)
  if (value === null || value === undefined) return value
  if (schema instanceof z.ZodObject) return partByPart(schema, value)
  if (schema instanceof z.ZodArray) return Array.isArray(value) ? value.map((one) => below(schema.element, one)) : value
  if (schema instanceof z.ZodRecord)
    return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, below(schema.valueType, one)]))
  if (schema instanceof z.ZodUnion) {
    const option = schema.options.find((one) => (one as z.ZodType).safeParse(value).success)
    // What is of no kind that is known may be anything.
    return option === undefined ? masked(value) : below(option, value)
  }
  if (schema instanceof z.ZodPipe) return below(schema.out, value)
  if (
    schema instanceof z.ZodOptional ||
    schema instanceof z.ZodNullable ||
    schema instanceof z.ZodDefault ||
    schema instanceof z.ZodReadonly ||
    schema instanceof z.ZodCatch
  )
    return below(schema.unwrap(), value)
  return value
}

const below = (schema: unknown, value: unknown) => withoutPeople(schema as z.ZodType, value)

function partByPart({ shape }: z.ZodObject, value: object): object {
  return Object.fromEntries(
    Object.entries(value).map(([name, one]) => [name, Object.hasOwn(shape, name) ? below(shape[name], one) : one]),
  )
}

function nothingLike(value: unknown): unknown {
  if (typeof value === 'string') return ''
  return Array.isArray(value) ? [] : null
}

function masked(value: unknown): unknown {
  if (typeof value === 'string') return withoutAddresses(value)
  if (Array.isArray(value)) return value.map(masked)
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, masked(one)]))
}
