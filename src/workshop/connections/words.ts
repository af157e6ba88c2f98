import type { AskedService, ConnectionStanding, HandOverStanding } from '#core/api'
import { abilitiesOf, type Connection } from '#core/connection'
import { shownMoment } from '../controls'

type Asked = Pick<AskedService, 'means' | 'said'>

/** Why an outside service did not do what was asked, in words for its owner. */
export function reasonFor({ means, said }: Asked): string {
  const quoted = said === '' ? '' : ` It said: “${said}”`
  switch (means) {
    case 'done':
    case 'already':
      return ''
    case 'to-confirm':
      return 'Accepted, to confirm there.'
    case 'key-not-sent':
      return said
    case 'key-refused':
      return `The key is wrong, or it was withdrawn there.${quoted}`
    case 'not-allowed':
      return `The key is right, but it may not do this. Make one there that may change lists.${quoted}`
    case 'absent':
      return `There is nothing at this address of the service. Is the account the right one?${quoted}`
    case 'list-gone':
      return `Its list is not there any more.${quoted}`
    case 'opted-out':
      return `They left there, and have to come back by themselves.${quoted}`
    case 'later':
      return `The service is busy or down. It is tried again.${quoted}`
    case 'unreachable':
      return `The service was not reached. ${said}`
    case 'no-json':
      return `What came is no answer of the service: a page, perhaps of a proxy. Is its address right?`
    case 'cannot':
      return `Its service file does not say how this is asked.`
    case 'refused':
      return `It refused.${quoted}`
  }
}

/** Whatever the reason is: so long nobody waits where all is well. */
const LONG_STILL_MS = 10 * 60_000

export function stillWords({ stillSince }: ConnectionStanding): string | null {
  return stillSince === null || Date.now() - stillSince < LONG_STILL_MS
    ? null
    : `People wait to go there, and nobody has gone since ${shownMoment(new Date(stillSince).toISOString())}. Look at the connection, and press “Try again now”.`
}

/** What is wrong with a connection; null while it goes. */
export function troubleOf(standing: ConnectionStanding | null, { way }: Connection): string | null {
  const { opensBy } = abilitiesOf(way)
  if (standing === null || opensBy === null) return null
  if (standing.key === 'no') return `It has no ${opensBy} yet.`
  if (standing.key === 'unreadable') return 'Its key was kept by another receiver. Paste it once more.'
  if (standing.halted !== null)
    return reasonFor({ means: standing.halted.means as AskedService['means'], said: standing.halted.said })
  const { isFailing, putOff } = standing
  if (!isFailing && putOff === null) return null
  const why = putOff === null ? '' : ` ${putOff.said}`
  return isFailing
    ? `The service does not answer.${why} Nobody is lost: it is tried again and again.`
    : `What goes there waits.${why} It is tried again ${shownMoment(new Date(putOff!.due).toISOString())}.`
}

const quoted = (fields: readonly { name: string }[]) => fields.map(({ name }) => `“${name}”`).join(', ')

/** What a service has so that not all arrives that should; null where it is as it was, or its list only has another name. */
export function changeOf(changed: HandOverStanding['changed']): string | null {
  if (changed === null) return null
  const { listName, lost, unfilled } = changed
  if (listName === undefined) return 'Its list is not there any more: choose another.'
  const said = [
    ...(lost.length === 0 ? [] : [lostWords(lost)]),
    ...(unfilled.length === 0 ? [] : [unfilledWords(unfilled)]),
  ]
  return said.length === 0 ? null : said.join(' ')
}

export const lostWords = (lost: readonly { name: string }[]) =>
  `${quoted(lost)} ${lost.length === 1 ? 'is' : 'are'} not there any more: renamed or taken away at the service.`
export const unfilledWords = (unfilled: readonly { name: string }[]) =>
  `${quoted(unfilled)} ${unfilled.length === 1 ? 'is' : 'are'} required there, and nothing fills ${unfilled.length === 1 ? 'it' : 'them'}.`
