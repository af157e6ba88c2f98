import { serveReadings } from '../reading'
import { feedReadings } from './read-feed'

/** The thread in which feeds are read. */
serveReadings(feedReadings)
