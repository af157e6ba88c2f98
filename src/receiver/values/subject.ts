import type { Subject } from '../subject'
import { valueTables } from './tables'

export const values: Subject = { name: 'values', tables: [valueTables] }
