import { z } from 'zod'

/** What of a value is people's: all of it, or the email addresses that may stand in its texts. */
export type Mark = 'all' | 'addresses'

/** By schema, so that what an answer holds of people is said where the answer is described. */
export const marks = z.registry<{ mark: Mark }>()

/** Marks what tells of people: names, addresses, what they answered, and questions about these. */
export function ofPeople<Schema extends z.ZodType>(schema: Schema): Schema {
  return marked(schema, 'all')
}

/** Marks texts that others wrote, such as a mail server's words, in which an address may stand. */
export function addressesIn<Schema extends z.ZodType>(schema: Schema): Schema {
  return marked(schema, 'addresses')
}

/** A copy, because the same schema may describe what is nobody's elsewhere. */
function marked<Schema extends z.ZodType>(schema: Schema, mark: Mark): Schema {
  const own = schema.clone()
  marks.add(own, { mark })
  return own
}
