import type { Subject } from '../subject'
import { workTables } from './tables'

export const work: Subject = { name: 'work', tables: [workTables] }
