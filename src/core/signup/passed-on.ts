import type { Answer } from '#core/form'
import { isAsked, type PostedValues } from './rules'
import { told } from './told'
import type { SignUp } from './verdict'

/** What an answer passes on of a sign-up, by the keys of its fields; what was not answered is left out. */
export function passedOnBy(
  { pass = [] }: Pick<Answer, 'pass'>,
  { version, email }: Pick<SignUp, 'version' | 'email'>,
  posted: PostedValues,
  page: string,
): Record<string, string> {
  const { fields } = version.content
  const values = pass.map((key) => {
    const field = fields.find((one) => one.key === key)
    if (field === undefined || !isAsked(field, fields, posted)) return [key, ''] as const
    return [key, field.kind === 'email' ? (email?.typed ?? '') : told(field, posted, page)] as const
  })
  return Object.fromEntries(values.filter(([, value]) => value !== ''))
}
