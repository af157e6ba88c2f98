import type { Picture } from '#core/picture'
import type { Body, Kind } from '#core/sync'
import { type Kysely, sql } from 'kysely'
import {
  bodyOf,
  bound,
  type Newest,
  newestOf,
  numberKey,
  parsed,
  type Row,
  type Step,
  type SubjectTables,
} from '../store'

interface Tables {
  /** What the owner makes, each with the revision of its newest change. */
  objects: {
    kind: string
    key: string
    revision: number
    body: string
    deleted: number
    changed_by: string | null
    changed_at: number | null
  }
  /** One row a change. */
  changes: { revision: number; mark: string }
  pictures: { id: string; body: string }
}

/** An object of the owner's. One that was taken away keeps its last body: code on pages still names it. */
export interface StoredObject {
  kind: Kind
  key: string
  revision: number
  body: Body
  isDeleted: boolean
  /** Id of the key that it was changed with last, and when, in milliseconds since 1970; null where that is not known. */
  by: string | null
  changedAt: number | null
}

export interface ObjectQueries {
  object(kind: Kind, key: string): Promise<StoredObject | null>
  keepObject(object: StoredObject): Promise<void>
  objectsOf(kind: Kind): Promise<StoredObject[]>
  /** As if it had never been: for what nothing refers to. */
  removeObject(kind: Kind, key: string): Promise<void>
  /** By revision, oldest first. */
  objectsAfter(revision: number, limit: number): Promise<StoredObject[]>
  newestChange(): Promise<Newest>
  keepChange(revision: number, mark: string): Promise<void>
  changeMark(revision: number): Promise<string | null>
  picture(id: string): Promise<Picture | null>
  keepPicture(picture: Picture): Promise<void>
}

const migrations: Record<string, Step> = {
  '001-objects': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('objects')
        .addColumn('kind', 'text', (column) => column.notNull())
        .addColumn('key', 'text', (column) => column.notNull())
        .addColumn('revision', 'bigint', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addColumn('deleted', 'integer', (column) => column.notNull())
        .addPrimaryKeyConstraint('objects_key', ['kind', 'key'])
        .execute()
      await db.schema.createIndex('objects_by_revision').on('objects').column('revision').unique().execute()
      await db.schema
        .createTable('changes')
        .addColumn('revision', numberKey(db), (column) => column.primaryKey())
        .addColumn('mark', 'text', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('pictures')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('body', 'text', (column) => column.notNull())
        .execute()
    },
  },
  '004-changed-by': {
    isCompatible: true,
    async up(db: Kysely<unknown>) {
      await db.schema.alterTable('objects').addColumn('changed_by', 'text').execute()
      await db.schema.alterTable('objects').addColumn('changed_at', 'bigint').execute()
    },
  },
}

const objectOf = (row: Row): StoredObject => ({
  kind: row.kind as Kind,
  key: String(row.key),
  revision: Number(row.revision),
  body: parsed<Body>(row.body),
  isDeleted: Number(row.deleted) === 1,
  by: row.changed_by === null ? null : String(row.changed_by),
  changedAt: row.changed_at === null ? null : Number(row.changed_at),
})

export const objectTables: SubjectTables<ObjectQueries> = {
  migrations,
  queries({ over, prepare }) {
    const tables = over<Tables>()
    const statements = {
      object: prepare(tables.selectFrom('objects').selectAll().where('kind', '=', bound).where('key', '=', bound)),
      keepObject: prepare(
        tables
          .insertInto('objects')
          .values({
            ...{ kind: bound, key: bound, revision: bound, body: bound, deleted: bound },
            ...{ changed_by: bound, changed_at: bound },
          })
          .onConflict((conflict) =>
            conflict.columns(['kind', 'key']).doUpdateSet((of) => ({
              revision: of.ref('excluded.revision'),
              body: of.ref('excluded.body'),
              deleted: of.ref('excluded.deleted'),
              changed_by: of.ref('excluded.changed_by'),
              changed_at: of.ref('excluded.changed_at'),
            })),
          ),
      ),
      objectsOf: prepare(tables.selectFrom('objects').selectAll().where('kind', '=', bound).orderBy('revision')),
      removeObject: prepare(tables.deleteFrom('objects').where('kind', '=', bound).where('key', '=', bound)),
      objectsAfter: prepare(
        tables.selectFrom('objects').selectAll().where('revision', '>', bound).orderBy('revision').limit(bound),
      ),
      newestChange: prepare(
        tables.selectFrom('changes').select(['revision as n', 'mark']).orderBy('revision', 'desc').limit(sql.lit(1)),
      ),
      keepChange: prepare(tables.insertInto('changes').values({ revision: bound, mark: bound })),
      changeMark: prepare(tables.selectFrom('changes').select('mark').where('revision', '=', bound)),
      picture: prepare(tables.selectFrom('pictures').select('body').where('id', '=', bound)),
      keepPicture: prepare(
        tables
          .insertInto('pictures')
          .values({ id: bound, body: bound })
          .onConflict((conflict) => conflict.doNothing()),
      ),
    }
    return {
      async object(kind, key) {
        const row = await statements.object.get(kind, key)
        return row === undefined ? null : objectOf(row)
      },
      async keepObject({ kind, key, revision, body, isDeleted, by, changedAt }) {
        await statements.keepObject.run(kind, key, revision, JSON.stringify(body), isDeleted ? 1 : 0, by, changedAt)
      },
      async objectsOf(kind) {
        return (await statements.objectsOf.all(kind)).map(objectOf)
      },
      async removeObject(kind, key) {
        await statements.removeObject.run(kind, key)
      },
      async objectsAfter(revision, limit) {
        return (await statements.objectsAfter.all(revision, limit)).map(objectOf)
      },
      async newestChange() {
        return newestOf(await statements.newestChange.get())
      },
      async keepChange(revision, mark) {
        await statements.keepChange.run(revision, mark)
      },
      async changeMark(revision) {
        return ((await statements.changeMark.get(revision))?.mark as string | undefined) ?? null
      },
      async picture(id) {
        return bodyOf<Picture>(await statements.picture.get(id))
      },
      async keepPicture(picture) {
        await statements.keepPicture.run(picture.id, JSON.stringify(picture))
      },
    }
  },
}
