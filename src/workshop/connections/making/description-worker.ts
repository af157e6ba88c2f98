import { expose } from 'comlink'
import { readDescription, type ReadDescription } from '#core/example'

const functions = {
  /** Reads a description file: a large one takes seconds, a hostile one is ended by whoever waits. */
  read: (text: string): Promise<ReadDescription> => readDescription(text),
}
export type DescriptionFunctions = typeof functions
expose(functions)
