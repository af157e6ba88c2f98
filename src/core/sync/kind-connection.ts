import { connectionSchema } from '#core/connection'
import { objectKind } from './kind'

/** Outside places that lists hand their people to. Their keys are no part of it: a receiver keeps those. */
export const connection = objectKind({ table: 'connections', schema: connectionSchema })
