import { type FormContent, fieldTitle } from '#core/form'
import { controlNames } from '#core/signup'

/** What whoever draws a form of their own has to know: where it goes, what each answer is sent as, and two examples. */
export interface ByHand {
  action: string
  /** By the name that it is sent as. */
  names: { name: string; label: string; isRequired: boolean }[]
  curl: string
  html: string
}

/**
 * Posts to a spot that a form of ours would make, for a form drawn by hand.
 *
 * @param receiver where visitors reach it, without a slash at the end
 */
export function byHand({ fields }: FormContent, receiver: string, spot: string): ByHand {
  const action = `${receiver}/join/${spot}`
  const names = fields
    .filter(({ kind }) => kind !== 'hidden')
    .flatMap((field) =>
      controlNames(field).map((name, at) => ({
        name,
        label:
          'choices' in field && field.kind !== 'choose-one'
            ? `${fieldTitle(field)}: ${field.choices[at]?.label ?? ''}`
            : fieldTitle(field),
        isRequired: field.required,
      })),
    )
  const sample = (name: string) => (name === 'email' ? 'ada@mail.example' : 'Ada')
  const needed = names.filter(({ name, isRequired }) => isRequired || name === 'email')
  return {
    action,
    names,
    curl: [
      `curl ${action}`,
      "  -H 'Accept: application/json'",
      ...needed.map(({ name }) => `  --data-urlencode '${name}=${sample(name)}'`),
    ].join(' \\\n'),
    html: [
      `<form action="${action}" method="post">`,
      ...names.map(
        ({ name, label, isRequired }) =>
          `  <label>${escaped(label)} <input name="${name}"${name === 'email' ? ' type="email"' : ''}${isRequired ? ' required' : ''}></label>`,
      ),
      '  <button>Join</button>',
      '</form>',
      '',
    ].join('\n'),
  }
}

const escaped = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;')
