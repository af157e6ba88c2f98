import type { RequestName } from '#core/connection'
import type { ReadStep, Role } from '#core/example'

/** Steps of a connection in the order in which they are tried: what each is, and what it costs where it is missing. */
export const makingSteps: readonly { step: RequestName; name: string; missing: string; isNeeded?: boolean }[] = [
  { step: 'account', name: 'Who am I', missing: 'You do not see whose key it is.' },
  {
    step: 'lists',
    name: 'Which lists are there',
    missing: 'Needed: paste the example that shows all lists.',
    isNeeded: true,
  },
  { step: 'fields', name: 'Which fields', missing: 'Its fields are those of the example that adds somebody.' },
  { step: 'put', name: 'Add somebody', missing: 'Needed: paste the example that adds somebody.', isNeeded: true },
  {
    step: 'find',
    name: 'Look somebody up',
    missing: 'People are handed over, and not seen: nobody can look whether they arrived.',
  },
  {
    step: 'off',
    name: 'Take somebody off',
    missing: 'Who leaves here stays on there, until you take them off yourself.',
  },
]

/** Further ones that are told only where an example shows them. */
export const furtherSteps: readonly { step: RequestName; name: string }[] = [
  { step: 'join', name: 'Put them on the list' },
  { step: 'change', name: 'Change somebody' },
  { step: 'members', name: 'Everybody on a list' },
  { step: 'putMany', name: 'Add several at once' },
  { step: 'makeField', name: 'Make a field' },
  { step: 'tags', name: 'Which tags' },
  { step: 'makeTag', name: 'Make a tag' },
]
export const stepName = (step: RequestName): string =>
  [...makingSteps, ...furtherSteps].find((one) => one.step === step)?.name ?? step

/** What a value stands for, in the owner's words. */
export const roleWords: Record<Role, string> = {
  fixed: 'sent as it stands',
  'left-out': 'left out',
  key: 'the key',
  'key-second': 'second part of the key',
  account: 'asked of me once',
  list: 'the list',
  email: 'the address',
  'email-md5': 'the address, as a hash (MD5)',
  'email-sha256': 'the address, as a hash (SHA-256)',
  id: 'their number for somebody',
  fields: 'all fields',
  field: 'a field',
  tags: 'the tags',
  'tag-ids': 'the tags, by number',
  asks: 'whether they are asked to confirm',
  people: 'several people',
  name: 'the name of what is made',
  cursor: 'where the next page begins',
  page: 'the number of the page',
  offset: 'how many came already',
}

/** What of an answer is read, in the owner's words. */
const partWords: Record<string, string> = {
  id: 'its number',
  name: 'its name',
  count: 'how many are on it',
  key: 'its key',
  kind: 'its kind',
  required: 'whether it is required',
  email: 'the address',
  status: 'whether they are on the list',
  list: 'their list',
  fields: 'their fields',
  tags: 'their tags',
}
export function partName(step: ReadStep, part: string): string {
  if (step === 'account' && part === 'name') return 'whose key it is'
  if ((step === 'find' || step === 'members' || step === 'put') && part === 'id') return 'their number for somebody'
  if (step === 'lists') return { id: 'the list’s number', name: 'the list’s name' }[part] ?? partWords[part] ?? part
  if (step === 'fields') return { key: 'the field’s key', name: 'the field’s name' }[part] ?? partWords[part] ?? part
  return partWords[part] ?? part
}
