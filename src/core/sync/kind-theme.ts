import { themeSchema } from '#core/form'
import { objectKind } from './kind'

/** A look under a name, which several forms share. */
export const theme = objectKind({ table: 'themes', schema: themeSchema })
