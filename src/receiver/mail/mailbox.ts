import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { boxAddress, boxName, type MailboxBehaviour } from '#core/mailbox'

export interface StoredBox {
  address: string
  count: number
  /** When the newest came, in milliseconds since 1970. */
  newest: number
}

export interface BoxedMail {
  id: string
  at: number
  /** As it was delivered, in base64: what the bytes are is for a reader of mail to say. */
  bytes: string
}

/** Reads the boxes of the stand-in mailbox (see `standins/mailbox/boxes.ts`), and sets its faults. */
export class StandInMailbox {
  constructor(private readonly folder: string) {}

  boxes(): StoredBox[] {
    if (!existsSync(this.folder)) return []
    return readdirSync(this.folder, { withFileTypes: true })
      .filter((entry) => entry.isDirectory())
      .flatMap((entry) => {
        const names = this.namesIn(entry.name)
        return names.length === 0
          ? []
          : [{ address: boxAddress(entry.name), count: names.length, newest: timeOf(names.at(-1)!) }]
      })
      .sort((one, other) => other.newest - one.newest)
  }

  /** Newest first. */
  mails(address: string, limit = 50): BoxedMail[] {
    const box = boxName(address)
    return this.namesIn(box)
      .slice(-limit)
      .reverse()
      .map((name) => ({
        id: name.replace(/\.eml$/, ''),
        at: timeOf(name),
        bytes: readFileSync(join(this.folder, box, 'new', name)).toString('base64'),
      }))
  }

  empty(): void {
    for (const { address } of this.boxes())
      rmSync(join(this.folder, boxName(address)), { recursive: true, force: true })
  }

  /** Boxes of addresses with this in them: those of made-up people, once they are gone. */
  forgetThose(part: string): void {
    for (const { address } of this.boxes())
      if (address.includes(part)) rmSync(join(this.folder, boxName(address)), { recursive: true, force: true })
  }

  behaviour(): MailboxBehaviour {
    const file = join(this.folder, 'behaviour.json')
    return existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as MailboxBehaviour) : { rules: [] }
  }

  behave(behaviour: MailboxBehaviour): void {
    mkdirSync(this.folder, { recursive: true })
    writeFileSync(join(this.folder, 'behaviour.json'), JSON.stringify(behaviour))
  }

  private namesIn(box: string): string[] {
    const folder = join(this.folder, box, 'new')
    return existsSync(folder) ? readdirSync(folder).sort() : []
  }
}

/** Files are named after the moment at which they came. */
function timeOf(name: string): number {
  return Number(name.slice(0, 14))
}
