import type { FileProblem } from './problem'

/** Formats of files with people. */
export const fileFormats = ['csv', 'json-lines', 'vcard', 'lines'] as const
export type FileFormat = (typeof fileFormats)[number]

export const formatNames: Record<FileFormat, string> = {
  csv: 'Table (CSV)',
  'json-lines': 'JSON Lines',
  vcard: 'Contacts (vCard)',
  lines: 'Addresses, one a line',
}

/** One person's cells, in the order of the file's columns. */
export interface FileRow {
  /** Where it begins, from 1. */
  line: number
  cells: string[]
  /** Why nothing can be made of it. */
  problem?: string
}

/** Reads a file of people as its text comes in; holds no more than one row that is not whole. */
export interface PeopleReader {
  /** Names of the columns that were seen so far. */
  readonly columns: readonly string[]
  push(text: string): FileRow[]
  end(): FileRow[]
  /** Why the rest of the file cannot be read. */
  readonly problem: FileProblem | null
}

/** No list has more columns; a file that has is something else. */
export const MOST_COLUMNS = 500
/** A row that is longer than this has no end: a quotation mark was never closed. */
export const LONGEST_ROW = 8 * 1024 * 1024
