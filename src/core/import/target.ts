import type { StatusMeaning } from '#core/list'
import type { DateReading } from './moment'
import type { TagSeparator } from './survey'

/** The owner's decisions for a column, by word or by spelling; missing ones are open. */
export type Decided<Decision extends string> = Readonly<Record<string, Decision>>

/** Target of one column of the file. */
export type Target =
  | { to: 'email' | 'nothing' }
  /** Meaning of each word, by its key (`wordOf`). */
  | { to: 'status'; means: Decided<StatusMeaning> }
  /** How each spelling of a date is read. */
  | { to: 'joined'; read: Decided<DateReading> }
  | { to: 'tags'; separator: TagSeparator; leftOut: readonly string[] }
  /** Of a column of yes and no: whether each word is kept as `yes`, as `no`, or as nothing. */
  | { to: 'column'; key: string; means?: Decided<'yes' | 'no' | 'nothing'> }
  /** Of a whole name, the first word and the rest. */
  | { to: 'name'; first: string; last: string }
