import { judgeAnswer } from './judge-answer'

/** What of services' answers is read in the room for reading: the large ones. */
export const serviceReadings = { answer: judgeAnswer }
