import { listSchema } from '#core/list'
import { objectKind } from './kind'

export const list = objectKind({ table: 'lists', schema: listSchema })
