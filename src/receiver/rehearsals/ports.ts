import type { Member } from '#core/list'
import type { HandedOn } from '#core/proof'
import { NoAnswer, type Ports, VISITS_ZONE } from '#core/rehearsal'
import type { BrowserPort } from '../browser'
import { OutsideProblem } from '../outside'
import { newId } from '../random'
import type { Settings } from '../settings'
import type { Rehearsal } from './rehearsals'
import { download, expireIn, mailsTo, type RehearsalMailParts } from './mails'
import { OtherAction, rehearsalRequests } from './requests'

export interface PortParts {
  settings: Settings
  mail: RehearsalMailParts
  browsers?: BrowserPort | null | undefined
  handOn?: ((member: Member) => Promise<HandedOn[]>) | undefined
}

/** A rehearsal's ways to the world from the receiver. */
export function receiverPorts(rehearsal: Rehearsal, { settings, mail, browsers = null, handOn }: PortParts): Ports {
  const requests = rehearsalRequests(settings, rehearsal.code)
  const answered = async <T>(work: Promise<T>): Promise<T> => {
    try {
      return await work
    } catch (error) {
      if (error instanceof OutsideProblem) throw new NoAnswer(error.message)
      throw error
    }
  }
  return {
    now: () => performance.now(),
    code: rehearsal.code,
    unique: () => newId(),
    fetch: (address, as) => answered(requests.fetch(address, as)),
    send({ address, contentType, body }, as) {
      try {
        return answered(requests.send(address, contentType, body, as))
      } catch (error) {
        if (error instanceof OtherAction) throw new NoAnswer('The form sends to somewhere else than this receiver.')
        throw error
      }
    },
    member: async (email) => rehearsal.space.known(email),
    mails: (email) => mailsTo(rehearsal, email, mail),
    download: (address) => answered(download(address, settings)),
    ...(handOn !== undefined && {
      handOn: async (email) => {
        const { member } = await rehearsal.space.known(email)
        return member === null ? [] : handOn(member)
      },
    }),
    expire: (email) => expireIn(rehearsal, email),
    pause: (ms) => new Promise((resolve) => setTimeout(resolve, ms)),
    today: () => Date.now(),
    browser: browsers?.isThere()
      ? {
          kind: 'visits',
          zone: VISITS_ZONE,
          hasFirefox: browsers.hasFirefox(),
          visit: (wish) => browsers.visit(rehearsal.code, wish),
          read: (wish) => browsers.read(rehearsal.code, wish),
        }
      : null,
  }
}
