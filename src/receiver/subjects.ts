import { giftTables } from './gifts/tables'
import { handOverTables } from './hand-over/tables'
import { objectTables } from './objects/tables'
import { batchTables } from './people/batch-tables'
import { peopleTables } from './people/tables'
import { spaceTables } from './rehearsals/tables'
import { resultTables } from './results/tables'
import { type Engine as StoreEngine, openEmbeddedEngine, type QueriesOf } from './store'
import { valueTables } from './values/tables'
import { workTables } from './work/tables'

/** The tables of all subjects. */
export const tables = [
  valueTables,
  workTables,
  peopleTables,
  batchTables,
  objectTables,
  handOverTables,
  resultTables,
  spaceTables,
  giftTables,
] as const

/** What one piece of work can read and write. All of it is stored together or not at all. */
export type Transaction = QueriesOf<typeof tables>
export type Engine = StoreEngine<Transaction>

/**
 * The store in a folder of its own.
 *
 * @throws DataFolderInUse
 */
export const openStore = (folder: string, copyThread?: string): Promise<Engine> =>
  openEmbeddedEngine(folder, tables, copyThread)
