import { type Choice, type Direct, type Field, type FormContent, freeChoiceKey, newField } from '#core/form'
import { richText } from '#core/text'
import { type InterfaceTexts, textsOf } from '#core/texts'
import type { ReadKind } from './kinds'
import type { ReadField, ReadForm } from './read'

/** What the owner says of fields that are not clear, by their names: of which kind they are, or that they are left out. */
export type Said = Readonly<Record<string, ReadKind | 'leave-out'>>

/**
 * A form of ours out of a service's: its questions in our fields, in the look and words of a new form, posting to where
 * the service's own posts to, with the names and values that it knows.
 *
 * @param start what a new form would be without it
 */
export function directContent(read: ReadForm, start: FormContent, said: Said = {}): FormContent {
  const texts = textsOf(start.language, start.texts)
  const fields: Field[] = []
  const controls: Direct['controls'] = []
  for (const one of read.fields) {
    const kind = said[one.name] ?? one.kind
    if (kind === 'leave-out' && !one.isRequired) continue
    const made = fieldOf({ ...one, kind: kind === 'leave-out' ? one.kind : kind }, texts, fields)
    fields.push(made)
    controls.push(...controlsOf(made, one))
  }
  const email = fields.find(({ kind }) => kind === 'email')
  return {
    ...start,
    words: {
      ...start.words,
      ...(read.heading !== '' && { heading: read.heading }),
      ...(read.buttonWords !== '' && { button: read.buttonWords }),
    },
    // The address first, as visitors expect it where the service asks for it first.
    fields: email === undefined ? start.fields : fields,
    direct: {
      action: read.action,
      method: read.method,
      charset: read.charset,
      fixed: read.fixed,
      trap: read.trap,
      button: read.button,
      controls,
    },
  }
}

function fieldOf(read: ReadField, texts: InterfaceTexts, before: readonly Field[]): Field {
  const taken = before.map(({ key }) => key)
  const made = newField(read.kind, texts, taken)
  const common = {
    ...made,
    label: read.label || made.label,
    placeholder: read.placeholder === read.label ? '' : read.placeholder,
    column: made.kind === 'email' ? 'email' : '',
  }
  if (common.kind === 'email') return { ...common, required: true } as Field
  const needed = { ...common, required: read.isRequired }
  if (needed.kind === 'consent') return { ...needed, wording: richText(read.label) } as Field
  if (needed.kind === 'choose-one' || needed.kind === 'choose-several') {
    const choices: Choice[] = []
    for (const { label, value } of read.choices.slice(0, 100))
      choices.push({ key: freeChoiceKey(choices), label: label || value })
    return { ...needed, choices: choices.length > 0 ? choices : needed.choices } as Field
  }
  return needed as Field
}

function controlsOf(field: Field, read: ReadField): Direct['controls'] {
  if (field.kind === 'choose-several')
    return field.choices.map(({ key }, at) => ({
      control: `${field.key}--${key}`,
      name: read.names[at] ?? read.name,
      value: read.choices[at]?.value ?? 'on',
    }))
  if (field.kind === 'choose-one')
    return [
      {
        control: field.key,
        name: read.name,
        value: null,
        values: Object.fromEntries(field.choices.map(({ key }, at) => [key, read.choices[at]?.value ?? ''])),
      },
    ]
  const value = field.kind === 'consent' ? (read.choices[0]?.value ?? 'on') : null
  return [{ control: field.key, name: read.name, value }]
}
