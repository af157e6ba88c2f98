import type { z } from 'zod'
import type { ListId } from '#core/ids'
import type { api } from './api'
import type { Route } from './route'

type Input<One extends Route, Name extends 'params' | 'query' | 'body'> = One extends {
  readonly [N in Name]: infer Schema extends z.ZodType
}
  ? { [N in Name]: z.input<Schema> }
  : object
/** What goes with a request of a route. */
type Call<One extends Route> = Input<One, 'params'> & Partial<Input<One, 'query'>> & Input<One, 'body'>

type Api = typeof api
/** A route that whoever looks on may ask: it does not compile before it has its example. */
type Examples = {
  [Subject in keyof Api]: {
    [
      Name in keyof Api[Subject] as Api[Subject][Name] extends { readonly needs: 'see' } ? Name : never
    ]: Api[Subject][Name] extends Route ? Call<Api[Subject][Name]> : never
  }
}

const letter = {
  ...{ subject: [], preview: '', isPlain: false, blocks: [], lists: ['membersletter'] as ListId[] },
  ...{ readers: { kind: 'everybody' as const }, isInArchive: false, countsLinks: false },
}
const page = { after: 0, limit: 0 }

/** An example call of each route that needs no more than looking on, over the demo. */
export const examples: Examples = {
  batches: { readBatch: { params: { id: 'demoimport' } } },
  care: {},
  clients: {},
  files: { readFile: { params: { id: '0'.repeat(64) } } },
  handOver: { readOutside: {} },
  history: {
    readJournal: { query: page },
    readObjects: { query: page },
    followNews: {},
    checkJournal: { query: { after: 0 } },
  },
  keys: {},
  letters: {
    listSendings: {},
    readSending: { params: { id: 'novemberletter' } },
    readReaders: { body: { content: letter } },
    readFeed: { params: { id: 'blogfeed' } },
    readSeries: { params: { id: 'firstweeks' } },
    lettersNeedingHand: {},
  },
  mail: { readMailState: {}, checkSenderRoute: { query: { sender: 'letter@hill.example', bounce: '' } } },
  mailbox: {},
  messages: {},
  moving: {},
  pages: {},
  pictures: { readPicture: { params: { id: 'd745a57a5b6c757f2fee931e' } } },
  presence: { sayPresent: { body: { place: 'form clearskyform', tab: 'abcdefgh' } } },
  receiver: { describeReceiver: {}, describeBrowser: {} },
  rehearsals: {},
  results: { readSeen: { query: { closely: 'yes' } } },
  sites: { readCrawl: { params: { id: 'volunteersblog' } }, crawlNeeds: {} },
}
