import type { ServiceFile } from '#core/connection'
import type { ExampleRequest } from './example-request'
import type { Piece } from './pieces'
import type { UnderstoodRequest } from './understood-request'
import { placeholderIn, wordsOf } from './words'

/** Where the key goes, by the first example that has one. */
export function keyIn(requests: readonly UnderstoodRequest[]): ServiceFile['key'] | null {
  for (const { request, pieces, roles } of requests) {
    const first = pieces.find(({ id }) => roles[id] === 'key')
    const second = pieces.find(({ id }) => roles[id] === 'key-second')
    if (first === undefined) continue
    const place = placeOfKey(request, first, second)
    if (place !== null) return place
  }
  return null
}

function placeOfKey(request: ExampleRequest, first: Piece, second: Piece | undefined): ServiceFile['key'] | null {
  const [kind, at = ''] = first.id.split('/')
  const twoParts = second !== undefined && {
    second: { label: labelOf(second), ...(kind !== 'user' && { name: second.name }) },
  }
  if (kind === 'user') {
    if (second !== undefined) return { way: 'basic', label: labelOf(first), ...twoParts }
    const user = request.user?.split(':')[0]
    return { way: 'basic', ...(first.id === 'user/1' && user !== undefined && { user }), label: labelOf(first) }
  }
  if (kind === 'header') {
    const { name, value } = request.headers[Number(at)]!
    const [, scheme = '', rest = value] = /^(\S+) +(\S.*)$/.exec(value) ?? []
    // Such as `Token token=…`.
    const assigned = /^\w{1,40}=/.exec(rest)?.[0] ?? ''
    if (/^authorization$/i.test(name) && /^bearer$/i.test(scheme) && second === undefined)
      return { way: 'bearer', label: labelOf({ ...first, value: rest }) }
    if (/^authorization$/i.test(name) && /^basic$/i.test(scheme)) return { way: 'basic', label: 'Key' }
    const prefix = `${scheme === '' ? '' : `${scheme} `}${assigned}`
    return { way: 'header', name, ...(prefix !== '' && { prefix }), label: labelOf(first), ...twoParts }
  }
  if (kind === 'query') return { way: 'query', name: first.name, label: labelOf(first), ...twoParts }
  if (kind === 'form' || first.id === `json/${first.name}`)
    return { way: 'form', name: first.name, label: labelOf(first), ...twoParts }
  return null
}

/** What somebody is asked for who has the key to fill in. */
function labelOf(piece: Piece): string {
  const isNamed = !/^(?:authorization|user|password)$/i.test(piece.name)
  const asked = wordsOf(
    isNamed ? piece.name : (placeholderIn(piece.value.split(' ').at(-1) ?? '') ?? piece.name),
  ).filter((word) => word !== 'your' && word !== 'x')
  const label = asked.join(' ').replace(/\b(?:api)\b/, 'API')
  return label === '' || /^(?:authorization|user|password)$/.test(label)
    ? 'Key'
    : label.charAt(0).toUpperCase() + label.slice(1)
}
