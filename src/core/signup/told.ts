import { type Field, isBox } from '#core/form'
import { answerIn, type PostedValues, valueIn } from './rules'

/** What somebody answered to a field, as one text. */
export function told(field: Field, posted: PostedValues, page: string): string {
  if (isBox(field)) return valueIn(posted, field.key) ? 'yes' : ''
  return answerIn(field, fromPage(field, posted, page))
}

/** A value that the page's address carries is read from there where no script could fill it in. */
function fromPage(field: Field, posted: PostedValues, page: string): PostedValues {
  if (field.kind !== 'hidden' || field.source !== 'page-address' || valueIn(posted, field.key) || page === '')
    return posted
  return { ...posted, [field.key]: new URL(page).searchParams.get(field.value) ?? '' }
}
