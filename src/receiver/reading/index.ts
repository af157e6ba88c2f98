export { openReading, type Reading, serveReadings } from './reading'
