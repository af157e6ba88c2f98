import { sql } from 'kysely'
import { bound, type Database } from '../store'
import type { Tables } from './schema'

const waiting = sql.lit('waiting')

/** All that is asked of these tables, each prepared once. */
export function letterStatements({ over, prepare }: Database) {
  const tables = over<Tables>()
  const copies = tables.selectFrom('letter_copies').selectAll()
  return {
    sending: prepare(tables.selectFrom('sendings').select('body').where('id', '=', bound)),
    keepSending: prepare(
      tables
        .insertInto('sendings')
        .values({ id: bound, state: bound, created: bound, starts: bound, body: bound })
        .onConflict((conflict) =>
          conflict.column('id').doUpdateSet((of) => ({
            state: of.ref('excluded.state'),
            starts: of.ref('excluded.starts'),
            body: of.ref('excluded.body'),
          })),
        ),
    ),
    dropSending: prepare(tables.deleteFrom('sendings').where('id', '=', bound)),
    dropPictures: prepare(tables.deleteFrom('letter_pictures').where('sending', '=', bound)),
    dropLinks: prepare(tables.deleteFrom('letter_links').where('sending', '=', bound)),
    dropCounts: prepare(tables.deleteFrom('sending_counts').where('sending', '=', bound)),
    dropCopies: prepare(tables.deleteFrom('letter_copies').where('sending', '=', bound)),
    sendings: prepare(tables.selectFrom('sendings').select('body').orderBy('created', 'desc').limit(bound)),
    // By the index `sendings_by_state`.
    sendingsInState: prepare(
      tables.selectFrom('sendings').select('body').where('state', '=', bound).orderBy('starts').limit(sql.lit(500)),
    ),
    counts: prepare(tables.selectFrom('sending_counts').select(['state', 'count']).where('sending', '=', bound)),
    addToCount: prepare(
      tables
        .insertInto('sending_counts')
        .values({ sending: bound, state: bound, count: bound })
        .onConflict((conflict) =>
          conflict.columns(['sending', 'state']).doUpdateSet({ count: sql`sending_counts.count + excluded.count` }),
        ),
    ),
    addCopy: prepare(
      tables
        .insertInto('letter_copies')
        .values({
          ...{ sending: bound, inbox: bound, member: bound, list: bound, state: waiting, at: bound },
          ...{ words: sql.lit(0), left: sql.lit(0), complained: sql.lit(0) },
        })
        .onConflict((conflict) => conflict.doNothing()),
    ),
    // By the index `letter_copies_by_state`, as the two below.
    copiesDue: prepare(
      copies
        .where('sending', '=', bound)
        .where('state', '=', waiting)
        .where('at', '<=', bound)
        .orderBy('at')
        .limit(bound),
    ),
    copiesQueued: prepare(copies.where('sending', '=', bound).where('state', '=', sql.lit('queued'))),
    nextCopyDue: prepare(
      tables
        .selectFrom('letter_copies')
        .select(({ fn }) => fn.min('at').as('at'))
        .where('sending', '=', bound)
        .where('state', '=', waiting),
    ),
    // By the index `letter_copies_by_member`.
    copyOf: prepare(copies.where('member', '=', bound).where('sending', '=', bound)),
    moveCopy: prepare(
      tables
        .updateTable('letter_copies')
        .set({ state: bound, at: bound, words: bound })
        .where('sending', '=', bound)
        .where('inbox', '=', bound),
    ),
    dropWaiting: prepare(
      tables
        .updateTable('letter_copies')
        .set({ state: sql.lit('dropped') })
        .where('sending', '=', bound)
        .where('state', '=', waiting),
    ),
    markLeft: prepare(
      tables
        .updateTable('letter_copies')
        .set({ left: sql.lit(1) })
        .where('sending', '=', bound)
        .where('inbox', '=', bound),
    ),
    markComplained: prepare(
      tables
        .updateTable('letter_copies')
        .set({ complained: sql.lit(1) })
        .where('sending', '=', bound)
        .where('inbox', '=', bound),
    ),
    ended: prepare(
      tables
        .selectFrom('letter_copies')
        .select(['state', 'at'])
        .where('sending', '=', bound)
        .where('state', '=', bound)
        .where('at', '>', bound)
        .orderBy('at', 'desc')
        .limit(bound),
    ),
    copiesOfMember: prepare(copies.where('member', '=', bound).orderBy('at', 'desc').limit(bound)),
    dropCopiesOf: prepare(tables.deleteFrom('letter_copies').where('member', '=', bound)),
    dropReader: prepare(tables.deleteFrom('series_readers').where('member', '=', bound)),
    keepWords: prepare(
      tables
        .insertInto('letter_words')
        .values({ sending: bound, number: bound, body: bound })
        .onConflict((conflict) => conflict.doNothing()),
    ),
    words: prepare(
      tables.selectFrom('letter_words').select('body').where('sending', '=', bound).where('number', '=', bound),
    ),
    links: prepare(tables.selectFrom('letter_links').selectAll().where('sending', '=', bound).orderBy('number')),
    addLink: prepare(
      tables.insertInto('letter_links').values({ sending: bound, number: bound, address: bound, presses: sql.lit(0) }),
    ),
    link: prepare(
      tables.selectFrom('letter_links').select('address').where('sending', '=', bound).where('number', '=', bound),
    ),
    countPress: prepare(
      tables
        .updateTable('letter_links')
        .set({ presses: sql`presses + 1` })
        .where('sending', '=', bound)
        .where('number', '=', bound),
    ),
    keepPicture: prepare(
      tables
        .insertInto('letter_pictures')
        .values({ picture: bound, sending: bound })
        .onConflict((conflict) => conflict.doNothing()),
    ),
    picture: prepare(
      tables.selectFrom('letter_pictures').select('sending').where('picture', '=', bound).limit(sql.lit(1)),
    ),
    keepReader: prepare(
      tables
        .insertInto('series_readers')
        .values({
          ...{ series: bound, member: bound, began: bound, zone: bound },
          ...{ days: bound, time: bound, due: bound, step: bound },
        })
        .onConflict((conflict) =>
          conflict.columns(['series', 'member']).doUpdateSet((of) => ({
            began: of.ref('excluded.began'),
            zone: of.ref('excluded.zone'),
            days: of.ref('excluded.days'),
            time: of.ref('excluded.time'),
            due: of.ref('excluded.due'),
            step: of.ref('excluded.step'),
          })),
        ),
    ),
    reader: prepare(
      tables.selectFrom('series_readers').selectAll().where('series', '=', bound).where('member', '=', bound),
    ),
    dropOneReader: prepare(tables.deleteFrom('series_readers').where('series', '=', bound).where('member', '=', bound)),
    readersDue: prepare(
      tables.selectFrom('series_readers').selectAll().where('due', '<=', bound).orderBy('due').limit(bound),
    ),
    readersOf: prepare(
      tables
        .selectFrom('series_readers')
        .selectAll()
        .where('series', '=', bound)
        .where('member', '>', bound)
        .orderBy('member')
        .limit(bound),
    ),
    countReaders: prepare(
      tables
        .selectFrom('series_readers')
        .select(({ fn }) => ['step', fn.countAll().as('count')])
        .where('series', '=', bound)
        .groupBy('step'),
    ),
  }
}
