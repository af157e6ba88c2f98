import { serveReadings } from '../reading'
import { siteReadings } from './site-readings'

/** The thread in which pages and sitemaps of sites are read. */
serveReadings(siteReadings)
