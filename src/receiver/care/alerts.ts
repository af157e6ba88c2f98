import type { RaisedAlert } from '#core/api'
import { parseEmail } from '#core/email'
import type { ListId } from '#core/ids'
import { mailJob } from '../mail/queued'
import type { Queue } from '../work'
import { newOrderedId } from '../random'
import type { CareFile } from './kept'

export interface AlertParts {
  care: CareFile
  queue: Queue
  publicUrl: string
  /** A list with a sender, in whose name it goes; null while there is none. */
  sendingList(): ListId | null
  now(): number
}

/** A mail's id carries what it is about, so that its words are those of the moment when it is sent. */
const ALERT_ID = 'alert-'
export const alertIn = (id: string) => id.slice(ALERT_ID.length, id.lastIndexOf('.'))

/** Mails to the owner when something broke: each once, until it is well again. */
export class Alerts {
  constructor(private readonly parts: AlertParts) {}

  /** Tells of it, unless it was told already. It is kept in any case, for the screen. */
  async raise(key: string, words: Pick<RaisedAlert, 'subject' | 'text'>): Promise<void> {
    const { care, now } = this.parts
    let isNew = false
    await care.keep(({ raised }) => {
      isNew = !(key in raised)
      return isNew ? { raised: { ...raised, [key]: { at: now(), ...words } } } : {}
    })
    if (isNew) await this.send(key)
  }

  /** It is well again: the next time is told anew. */
  async clear(key: string): Promise<void> {
    const { care } = this.parts
    if (!(key in (await care.latest()).raised)) return
    await care.keep(({ raised: { [key]: _, ...rest } }) => ({ raised: rest }))
  }

  /** What a queued mail is about, by its key; null once it is well again. */
  async wordsOf(key: string): Promise<{ subject: string; text: string } | null> {
    const raised = (await this.parts.care.latest()).raised[key]
    return raised === undefined
      ? null
      : {
          subject: `Ask Box: ${raised.subject}`,
          text: `${raised.text}\n\n${this.parts.publicUrl}/\n\nThis is told once, until it is well again. Where such mails go is set in Settings.`,
        }
  }

  /** Tells of all that is broken now, as to somebody who has just said where. */
  async tellAll(): Promise<void> {
    for (const key of Object.keys((await this.parts.care.latest()).raised)) await this.send(key)
  }

  private async send(key: string): Promise<void> {
    const { care, queue, sendingList, now } = this.parts
    const reading = parseEmail((await care.latest()).alerts.address)
    const list = sendingList()
    if (!reading.ok || list === null) return
    const id = `${ALERT_ID}${key}.${newOrderedId(now())}`
    await queue.add(mailJob({ list, member: '', kind: 'alert', recipient: reading.email }, now(), { id }))
  }
}
