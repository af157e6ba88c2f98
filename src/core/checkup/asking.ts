import {
  columnsLacking,
  type Field,
  fieldChanged,
  fieldWithColumn,
  fieldTitle,
  type FormContent,
  isAutofillToken,
  isBox,
} from '#core/form'
import { columnsOf, type List } from '#core/list'
import type { Site } from '#core/site'
import { type Spot, spotName } from '#core/spot'
import { plainText } from '#core/text'
import type { Finding, Mend } from './finding'

/** Labels, autofill, errors, sizes and order: whether everybody can fill it in. */
export function askingFindings(
  content: FormContent,
  list: List | null,
  spots: readonly Spot[] = [],
  sites: readonly Site[] = [],
): Finding[] {
  const columns = new Set(list === null ? [] : columnsOf(list).map(({ key }) => key))
  const twins = sharingColumns(content)
  return content.fields.flatMap((field): Finding[] => {
    if (field.kind === 'hidden') return addressFindings(field, spots, sites)
    const about = field.key
    const selector = `.askbox-field-${field.key}`
    const title = fieldTitle(field)
    const at = { station: 'form' as const, about, selector }
    const findings: (Finding | false)[] = [
      !isBox(field) &&
        field.label.trim() === '' && {
          ...at,
          code: 'label-empty',
          weight: 'stops',
          message: 'A field has no label, so screen readers cannot say what it asks.',
          source: 'WCAG 2.2, 3.3.2 Labels or Instructions; 4.1.2 Name, Role, Value',
        },
      isBox(field) &&
        plainText(field.wording).trim() === '' && {
          ...at,
          code: 'consent-empty',
          weight: 'stops',
          message: 'A box to tick has no words: nobody knows what they agree to.',
        },
      !field.labelShown &&
        field.placeholder.trim() === '' && {
          ...at,
          code: 'label-hidden',
          weight: 'fault',
          message: `“${title}” shows neither label nor example, so people who see the form do not know what it asks.`,
          source: 'WCAG 2.2, 3.3.2 Labels or Instructions',
          mend: changeField('Show the label', field, { labelShown: true }),
        },
      field.autofill !== '' &&
        !isAutofillToken(field.autofill) && {
          ...at,
          code: 'autofill-unknown',
          weight: 'fault',
          message: `“${field.autofill}” is no autofill token of the HTML standard.`,
          source: 'WCAG 2.2, 1.3.5 Identify Input Purpose',
          mend: changeField('Take the usual autofill', field, { autofill: '' }),
        },
      field.autofill === 'off' &&
        ['email', 'first-name', 'last-name', 'full-name', 'phone', 'website', 'birthday', 'address'].includes(
          field.kind,
        ) && {
          ...at,
          code: 'autofill-off',
          weight: 'fault',
          message: `Browsers may not fill in “${title}”, so everybody has to type it.`,
          source: 'WCAG 2.2, 1.3.5 Identify Input Purpose',
          mend: changeField('Let browsers fill it in', field, { autofill: '' }),
        },
      field.error.trim() !== '' &&
        field.error.trim().length < 8 && {
          ...at,
          code: 'error-short',
          weight: 'hint',
          message: `The error of “${title}” says too little to put it right: “${field.error.trim()}”.`,
          source: 'WCAG 2.2, 3.3.1 Error Identification; 3.3.3 Error Suggestion',
        },
      (field.kind === 'choose-one' || field.kind === 'choose-several' || field.kind === 'topics') &&
        field.choices.some(({ label }) => label.trim() === '') && {
          ...at,
          code: 'choice-empty',
          weight: 'stops',
          message: `“${title}” offers a choice without words.`,
        },
      field.kind !== 'topics' &&
        !isBox(field) &&
        !isOfMessage(field) &&
        field.column === '' && {
          ...at,
          code: 'no-column',
          weight: 'fault',
          message: `“${title}” is asked, but no column of the list keeps the answer.`,
          reason: 'Ask only what will be used: every question costs sign-ups.',
          ...(list !== null && { mend: makeColumn(field, content, list) }),
        },
      list !== null &&
        field.column !== '' &&
        !columns.has(field.column) && {
          ...at,
          station: 'list',
          code: 'column-missing',
          weight: 'stops',
          message: `“${title}” fills the column “${field.column}”, which the list does not have.`,
          mend: { name: 'Make the column', apply: (same) => same, columns: columnsLacking([field], list.columns) },
        },
      twins.get(field.column)?.[0] !== undefined &&
        twins.get(field.column)!.indexOf(field) > 0 && {
          ...at,
          code: 'column-twice',
          weight: 'stops',
          message: `“${title}” fills the column “${field.column}”, as “${fieldTitle(twins.get(field.column)![0]!)}” does: the answers would be joined into one.`,
        },
      field.required &&
        field.kind !== 'email' &&
        !isOfMessage(field) &&
        !isBox(field) && {
          ...at,
          code: 'required-needless',
          weight: 'hint',
          message: `“${title}” must be answered. Does the list need it from everybody?`,
          reason: 'Every question that has to be answered turns some people away.',
          mend: changeField('Make it optional', field, { required: false }),
        },
      field.kind === 'number' &&
        field.least !== null &&
        field.most !== null &&
        field.least > field.most && {
          ...at,
          code: 'number-range',
          weight: 'stops',
          message: `“${title}” takes no number at all: its least is above its most.`,
        },
    ]
    return findings.filter((finding) => finding !== false)
  })
}

/** Read by the owner alone: no list keeps it. */
const isOfMessage = ({ kind }: Field) => kind === 'message' || kind === 'subject'

/** A value from the page's address is known where our script runs; plain code is told only the site by most browsers. */
function addressFindings(field: Field & { kind: 'hidden' }, spots: readonly Spot[], sites: readonly Site[]): Finding[] {
  const plain = spots.filter(({ state, kind }) => state === 'live' && kind !== 'landing')
  if (field.source !== 'page-address' || plain.length === 0) return []
  return [
    {
      station: 'form',
      code: 'address-not-seen',
      weight: 'hint',
      about: field.key,
      message: `“${fieldTitle(field)}” stays empty in plain code (${plain.map((spot) => spotName(spot, sites)).join('; ')}): it is filled on landing pages.`,
      reason:
        'Browsers tell another site only the origin of a page, without what stands behind it in the address, unless the page’s own policy says more.',
      source: 'Referrer Policy, strict-origin-when-cross-origin',
    },
  ]
}

function changeField(name: string, field: Field, changes: Partial<Field>) {
  return {
    name,
    apply: (content: FormContent): FormContent => ({
      ...content,
      fields: fieldChanged(content.fields, field.key, changes),
    }),
  }
}

/** Columns that several fields fill, with those fields, where one visitor may be asked more than one of them. */
function sharingColumns({ fields }: FormContent): Map<string, Field[]> {
  const byColumn = new Map<string, Field[]>()
  for (const field of fields)
    // Fields with a show-when rule may exclude each other, so they are not counted as two.
    if ('column' in field && field.column && field.showWhen === null && !isBox(field))
      byColumn.set(field.column, [...(byColumn.get(field.column) ?? []), field])
  return new Map([...byColumn].filter(([, sharing]) => sharing.length > 1))
}

/** Gives a field that is kept nowhere a column of its own. */
function makeColumn(field: Field, { fields }: FormContent, { columns }: List): Mend {
  const { field: filling, column } = fieldWithColumn(field, fields, columns)
  return {
    ...changeField('Make a column for it', field, { column: filling.column }),
    columns: column === null ? [] : [column],
  }
}
