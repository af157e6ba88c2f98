import { siteSchema } from '#core/site'
import { objectKind } from './kind'

export const site = objectKind({ table: 'sites', schema: siteSchema })
