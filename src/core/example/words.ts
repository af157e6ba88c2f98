/** The words of a name, however it is written: `listId`, `list_id`, `LIST-ID` and `{list_id}` are `list` and `id`. */
export function wordsOf(name: string): string[] {
  return name
    .replaceAll(/([a-z\d])([A-Z])/g, '$1 $2')
    .replaceAll(/([A-Z])([A-Z][a-z])/g, '$1 $2')
    .toLowerCase()
    .split(/[^a-z\d]+/)
    .filter((word) => word !== '')
}

const has = (words: readonly string[]) => (name: string) => wordsOf(name).some((word) => words.includes(word))

// What services call things. Common practice, without a source.
export const isListWord = has([
  ...['list', 'lists', 'audience', 'audiences', 'mailinglist', 'mailinglists', 'newsletter', 'newsletters', 'group'],
  ...['groups', 'publication', 'publications', 'channel', 'channels', 'listid', 'listids', 'bulletin', 'bulletins'],
])
export const isPeopleWord = has([
  ...['member', 'members', 'people', 'person', 'persons', 'subscriber', 'subscribers', 'contact', 'contacts', 'reader'],
  ...[
    'readers',
    'subscription',
    'subscriptions',
    'recipient',
    'recipients',
    'user',
    'users',
    'profile',
    'profiles',
    'lead',
    'leads',
  ],
])
export const isFieldWord = has([
  ...[
    'field',
    'fields',
    'attribute',
    'attributes',
    'property',
    'properties',
    'customfield',
    'customfields',
    'question',
  ],
  ...[
    'questions',
    'answer',
    'answers',
    'merge',
    'custom',
    'variable',
    'variables',
    'column',
    'columns',
    'values',
    'details',
  ],
])
export const isTagWord = has([
  'tag',
  'tags',
  'label',
  'labels',
  'mark',
  'marks',
  'topic',
  'topics',
  'interest',
  'interests',
])
export const isAccountWord = has([
  'me',
  'account',
  'accounts',
  'whoami',
  'self',
  'ping',
  'workspace',
  'organisation',
  'organization',
  'owner',
  'profile',
])
export const isEmailWord = has(['email', 'mail', 'address', 'emailaddress', 'addresses'])
export const isKeyWord = has([
  'key',
  'apikey',
  'token',
  'secret',
  'auth',
  'authorization',
  'password',
  'bearer',
  'credential',
  'signature',
])
export const isSecretWord = has(['secret', 'password', 'private', 'pass'])
export const isAskWord = has([
  'confirm',
  'confirmation',
  'optin',
  'double',
  'doi',
  'ask',
  'invite',
  'verify',
  'verification',
])
export const isCursorWord = has(['cursor', 'after', 'starting', 'continue', 'continuation', 'marker', 'next'])
export const isIdWord = has(['id', 'ids', 'uuid', 'uid', 'guid', 'number', 'no', 'code', 'ref', 'identifier'])
export const isOffWord = has(['remove', 'delete', 'unsubscribe', 'leave', 'off', 'drop', 'archive', 'cancel'])
export const isManyWord = has(['batch', 'batches', 'bulk', 'many', 'import', 'imports', 'multiple'])

/** Signs that documentation puts around what is to be put in. */
const AROUND = [
  ['{{', '}}'],
  ['{', '}'],
  ['%7B', '%7D'],
  ['<', '>'],
  ['[', ']'],
  ['${', '}'],
  ['$', ''],
  [':', ''],
] as const
const NAME = /^[A-Za-z_][\w.\- ]*$/
/** As documentation shouts what is to be put in: `YOUR_LIST_ID`. */
const SHOUTED = /^[A-Z][A-Z\d]*(?:[-_ ][A-Z\d]+)+$|^(?:YOUR|MY|XXX)[-_ A-Z\d]*$/
const YOURS = /^(?:your|my|insert|replace|enter)[-_ ][\w-]+$/i
const LONGEST_NAME = 80

/** What a value asks its reader to put in there, in words; null where it is a value of its own. */
export function placeholderIn(value: string): string | null {
  if (value.length > LONGEST_NAME) return null
  for (const [before, behind] of AROUND) {
    if (!value.startsWith(before) || !value.endsWith(behind)) continue
    const name = value.slice(before.length, value.length - behind.length).trim()
    if (NAME.test(name)) return name
  }
  return SHOUTED.test(value) || YOURS.test(value) ? value : null
}

/** Whether something in a path is one of many rather than a word of the service's: a number, a UUID, a code, a placeholder. */
export function isOneOfMany(segment: string): boolean {
  if (placeholderIn(segment) !== null) return true
  if (/^v\d+(?:\.\d+)*$/i.test(segment)) return false
  if (/^\d+$/.test(segment) || /^[\da-f]{8}-[\da-f-]{27}$/i.test(segment)) return true
  if (/^\d{4}-\d\d(?:-\d\d)?$/.test(segment)) return false
  return /\d/.test(segment) && /^[\w.-]{3,}$/.test(segment) && !/^[a-z]+\d$/.test(segment)
}

function isAddress(value: string): boolean {
  const [before = '', behind = '', ...others] = value.split('@')
  return (
    before !== '' && others.length === 0 && /^[^\s{}<>.]+(?:\.[^\s{}<>.]+)+$/.test(behind) && !/[\s{}<>]/.test(before)
  )
}

/** Whether a value is an address, or asks for one. */
export function isEmailValue(value: string): boolean {
  const plain = /%40/i.test(value) ? value.replaceAll(/%40/gi, '@') : value
  if (isAddress(plain)) return true
  const asked = placeholderIn(value)
  return asked !== null && isEmailWord(asked) && !isIdWord(asked) && !/hash|md5|sha/i.test(asked)
}
