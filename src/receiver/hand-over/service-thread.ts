import { serveReadings } from '../reading'
import { serviceReadings } from './service-readings'

/** The thread in which large answers of services are read. */
serveReadings(serviceReadings)
