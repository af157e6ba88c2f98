import { allows, type Grant } from '#core/api'
import { withoutAddresses } from '#core/text'

/** What servers and services said, for whoever asks: a refusal names the address that it is of. */
export function saidTo<Value>(grant: Grant, value: Value): Value {
  return allows(grant, 'see-people') ? value : (masked(value) as Value)
}

function masked(value: unknown, key = ''): unknown {
  if (typeof value === 'string') return key === 'said' || key === 'text' ? withoutAddresses(value) : value
  if (Array.isArray(value)) return value.map((one) => masked(one, key))
  if (value === null || typeof value !== 'object') return value
  return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, masked(one, name)]))
}
