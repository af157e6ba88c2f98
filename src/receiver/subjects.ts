import { care } from './care/subject'
import { clients } from './clients/subject'
import { crawls } from './crawl/subject'
import { gifts } from './gifts/subject'
import type { GiftQueries } from './gifts/tables'
import { handOver } from './hand-over/subject'
import type { HandOverQueries } from './hand-over/tables'
import { letters } from './letters/subject'
import type { LetterQueries } from './letters/tables'
import { mail } from './mail/subject'
import { messages } from './messages/subject'
import { metrics } from './metrics/subject'
import { moving } from './moving/subject'
import type { MessageQueries } from './messages/tables'
import { objects } from './objects/subject'
import type { ObjectQueries } from './objects/tables'
import { owner } from './owner/subject'
import type { BatchQueries } from './people/batch-tables'
import { people } from './people/subject'
import type { PeopleQueries } from './people/tables'
import { visitors } from './public/subject'
import { presence } from './presence/subject'
import { rehearsals } from './rehearsals/subject'
import type { SpaceQueries } from './rehearsals/tables'
import { results } from './results/subject'
import type { ResultQueries } from './results/tables'
import { secrets } from './secrets/subject'
import { type Engine as StoreEngine, openEmbeddedEngine, openPostgresEngine, type PostgresAddress } from './store'
import type { Subject } from './subject'
import type { ValueQueries } from './values/tables'
import { values } from './values/subject'
import { work } from './work/subject'
import type { WorkQueries } from './work/tables'

/** All that the receiver does: the store, the start, the owner's API and the clock's jobs go by this list alone. */
export const subjects: readonly Subject[] = [
  ...[values, work, visitors, objects, people, messages, mail, letters, handOver],
  ...[results, crawls, rehearsals, gifts, care, secrets, presence, clients, metrics, moving, owner],
]

/** What one piece of work can read and write. All of it is stored together or not at all. */
export type Transaction = ValueQueries &
  WorkQueries &
  ObjectQueries &
  PeopleQueries &
  BatchQueries &
  HandOverQueries &
  LetterQueries &
  MessageQueries &
  ResultQueries &
  SpaceQueries &
  GiftQueries
export type Engine = StoreEngine<Transaction>

export const tablesOf = (all: readonly Subject[]) => all.flatMap(({ tables }) => tables)

/**
 * The store in a folder of its own.
 *
 * @throws DataFolderInUse
 */
export const openStore = (folder: string, copyThread?: string, all = subjects): Promise<Engine> =>
  openEmbeddedEngine<Transaction>(folder, tablesOf(all), copyThread)

/**
 * The store in a database server, which other receivers may share.
 *
 * @throws ServerUnusable
 */
export const openSharedStore = (address: PostgresAddress, all = subjects): Promise<Engine> =>
  openPostgresEngine<Transaction>(address, tablesOf(all))
