export { asRequest, complain, type LogFormat, logFormats, openLog, requestNumber, tell } from './log'
