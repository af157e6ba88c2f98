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
/** A route that is read, or that whoever looks on may ask: it does not compile before it has its example. */
type Examples = {
  [Subject in keyof Api]: {
    [
      Name in keyof Api[Subject] as Api[Subject][Name] extends { readonly needs: 'see' } | { readonly method: 'get' }
        ? Name
        : never
    ]: Api[Subject][Name] extends Route ? Call<Api[Subject][Name]> : never
  }
}

const letter = {
  ...{ subject: [], preview: '', isPlain: false, blocks: [], lists: ['membersletter'] as ListId[] },
  ...{ readers: { kind: 'everybody' as const }, isInArchive: false, countsLinks: false },
}
const page = { after: 0, limit: 0 }
const member = 'demomember'

/** An example call of each of those routes, over the demo. */
export const examples: Examples = {
  batches: { readBatch: { params: { id: 'demoimport' } } },
  care: { readCare: {} },
  clients: { readClientPages: {} },
  files: { readFile: { params: { id: '0'.repeat(64) } } },
  handOver: {
    readOutside: {},
    listRefused: { params: { id: 'schoolshandedon' } },
    handedOf: { params: { member } },
    readComparison: { params: { id: 'schoolshandedon' } },
    foundPeople: { params: { id: 'schoolshandedon', standing: 'only-here' } },
  },
  history: {
    readJournal: { query: page },
    readObjects: { query: page },
    followNews: {},
    checkJournal: { query: { after: 0 } },
    readDigests: { params: { list: 'membersletter' }, query: { after: '' } },
  },
  keys: { readKeys: {} },
  letters: {
    listSendings: {},
    readSending: { params: { id: 'novemberletter' } },
    readReaders: { body: { content: letter } },
    readFeed: { params: { id: 'blogfeed' } },
    readSeries: { params: { id: 'firstweeks' } },
    lettersNeedingHand: {},
    listLettersOf: { params: { member } },
  },
  mail: {
    readMailState: {},
    listMails: { query: {} },
    listMailsToMember: { params: { member } },
    checkSenderRoute: { query: { sender: 'letter@hill.example', bounce: '' } },
  },
  mailbox: { listBoxes: {}, readBox: { params: { address: 'ada@mail.example' } } },
  messages: {},
  moving: { readMove: {} },
  pages: {},
  pictures: { readPicture: { params: { id: 'd745a57a5b6c757f2fee931e' } } },
  presence: { sayPresent: { body: { place: 'form clearskyform', tab: 'abcdefgh' } } },
  receiver: { describeReceiver: {}, describeBrowser: {}, copyStore: {} },
  rehearsals: {
    lookUpForRehearsal: { params: { code: 'abcdef' }, query: { email: 'ada-abcdef@mail.example' } },
    mailsForRehearsal: { params: { code: 'abcdef' }, query: { email: 'ada-abcdef@mail.example' } },
  },
  results: { readSeen: { query: { closely: 'yes' } } },
  sites: { readCrawl: { params: { id: 'volunteersblog' } }, crawlNeeds: {} },
}
