import { z } from 'zod'
import { harmlessText } from '#core/text'

const shared = { label: harmlessText, placeholder: harmlessText }

/**
 * One question of a form. `key` is its name in posts and never begins with `askbox-`; `column` is the list's
 * column that it fills.
 */
export const fieldSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('email'), key: z.literal('email'), column: z.literal('email'), required: z.literal(true), ...shared }),
  z.strictObject({
    kind: z.literal('first-name'),
    key: z.literal('first-name'),
    column: z.literal('first-name'),
    required: z.boolean(),
    ...shared,
  }),
])
export type Field = z.infer<typeof fieldSchema>
export type FieldKey = Field['key']

export function emailField(): Field {
  return { kind: 'email', key: 'email', column: 'email', required: true, label: 'Email', placeholder: 'The address you really read' }
}

export function firstNameField(required: boolean): Field {
  return { kind: 'first-name', key: 'first-name', column: 'first-name', required, label: 'First name', placeholder: '' }
}
