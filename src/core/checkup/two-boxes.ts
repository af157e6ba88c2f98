import { fieldRemoved, type FormContent } from '#core/form'
import { linksIn, plainText } from '#core/text'
import type { Finding } from './finding'

/** A message's box that joins, and a consent box beside it: of two boxes only one is what it looks like. */
export function twoBoxes({ fields }: FormContent): Finding[] {
  const joining = fields.find(({ kind }) => kind === 'join-box')
  const consent = fields.find(({ kind }) => kind === 'consent')
  if (joining?.kind !== 'join-box' || consent?.kind !== 'consent') return []
  return [
    {
      station: 'form',
      code: 'two-boxes',
      weight: 'fault',
      about: consent.key,
      message: `Two boxes, and only one joins the list: “${plainText(joining.wording).trim()}”. Who ticks the other alone is told that their message is sent, and joins nothing.`,
      selector: `.askbox-field-${consent.key}`,
      mend: {
        name: 'Keep the one that joins',
        apply: (content) => ({
          ...content,
          fields: fieldRemoved(content.fields, consent.key).map((field) =>
            // What the consent links to is still read before ticking.
            field.key === joining.key && linksIn(consent.wording).length > 0 && linksIn(joining.wording).length === 0
              ? { ...field, wording: [...joining.wording, ...consent.wording] }
              : field,
          ),
        }),
      },
    },
  ]
}
