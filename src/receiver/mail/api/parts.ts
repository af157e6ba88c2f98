import type { SmtpServer } from '#core/api'
import { type GiftFiles } from '../../gifts'
import type { Ledger } from '../../ledger'
import { type NameServers, type Sender, type StandInMailbox } from '..'
import type { RehearsalMailParts } from '../../rehearsals'
import type { Settings } from '../../settings'

export interface MailApiParts {
  ledger: Ledger
  settings: Settings
  sender: Sender
  gifts: GiftFiles
  /** Null where no stand-in mailbox runs. */
  mailbox: StandInMailbox | null
  isStandIn(server: SmtpServer): boolean
  nameServers: NameServers
  now(): number
  rehearsalMail: RehearsalMailParts
}
