import type { Subject } from '../subject'
import { careApiRoutes } from './api'

export const care: Subject = {
  name: 'care',
  tables: [],
  jobs: ({ care, mail }) => care.jobs(mail.sender),
  routes: (routes, { care }) => careApiRoutes(routes, care),
}
