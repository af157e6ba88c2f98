import { answersToDependOn, isBox, type Field, type FieldKey, type FieldKind } from './field'

/** Whether a form can ask for one more of a kind by itself: a message comes with its box (`withMessage`), a subject with a message. */
export function canAdd(fields: readonly Field[], kind: FieldKind): boolean {
  const has = (one: FieldKind) => fields.some((field) => field.kind === one)
  if (kind === 'subject') return has('message') && !has(kind)
  return kind !== 'email' && kind !== 'message' && kind !== 'join-box'
}

/** The fields with one more, after all that are seen by visitors and before boxes to tick, which stand last. */
export function fieldAdded(fields: readonly Field[], field: Field): Field[] {
  if (!canAdd(fields, field.kind)) return [...fields]
  const last = fields.findIndex(isBox)
  const at = isBox(field) || last < 0 ? fields.length : last
  const step = Math.max(1, ...fields.map((one) => one.step))
  // A label above some fields of a row and none above others is a ragged row.
  const shown = field.kind === 'hidden' || isBox(field) ? fields : fields.map(withLabel)
  return [...shown.slice(0, at), { ...field, step }, ...shown.slice(at)]
}

const withLabel = (field: Field): Field => (field.labelShown ? field : { ...field, labelShown: true })

/**
 * The fields without one. Those that depended on it are asked of everybody from then on. The email address stays, and so
 * does the box that joins: it goes with the message, as the subject does.
 */
export function fieldRemoved(fields: readonly Field[], key: FieldKey): Field[] {
  const isMessage = fields.some((field) => field.key === key && field.kind === 'message')
  return withoutBrokenRules(
    fields.filter(
      (field) =>
        field.kind === 'email' ||
        (field.kind === 'join-box' && !isMessage) ||
        (field.key !== key && !(isMessage && (field.kind === 'subject' || field.kind === 'join-box'))),
    ),
  )
}

/** One field changed in place; rules that named a choice it no longer has are dropped. */
export function fieldChanged(fields: readonly Field[], key: FieldKey, changes: Partial<Field>): Field[] {
  return withoutBrokenRules(fields.map((field) => (field.key === key ? ({ ...field, ...changes } as Field) : field)))
}

/** The field moved to another place in the order asked; it joins the step of its new neighbour. */
export function fieldMoved(fields: readonly Field[], from: number, to: number): Field[] {
  const field = fields[from]
  if (field === undefined || to < 0 || to >= fields.length || from === to) return [...fields]
  const rest = fields.filter((_, at) => at !== from)
  const neighbour = rest[to > from ? to - 1 : to]
  return [...rest.slice(0, to), { ...field, step: neighbour?.step ?? field.step }, ...rest.slice(to)]
}

function withoutBrokenRules(fields: Field[]): Field[] {
  return fields.map((field) => {
    if (field.showWhen === null) return field
    const other = fields.find(({ key }) => key === field.showWhen?.field && key !== field.key)
    const there = other === undefined ? [] : answersToDependOn(other).map(({ key }) => key)
    const is = field.showWhen.is.filter((answer) => there.includes(answer))
    return { ...field, showWhen: is.length === 0 ? null : { ...field.showWhen, is } } as Field
  })
}
