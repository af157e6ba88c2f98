import type { FormId } from '#core/ids'
import type { SignUpRow } from './people'
import { dayAfter } from './time'

/** A form that has brought nobody for so long is offered for tidying up. Common practice, without a source. */
export const UNUSED_DAYS = 60

/** Forms that brought nobody of late, with the day on which somebody last signed up; null for never. */
export function unusedForms(
  forms: readonly { id: FormId; createdAt: string; publishedAt: string | null }[],
  people: readonly SignUpRow[],
  today: string,
): { id: FormId; last: string | null }[] {
  const since = dayAfter(today, -UNUSED_DAYS)
  const last = new Map<FormId, string>()
  for (const { form, day, signUps, already } of people)
    if (signUps + already > 0 && day > (last.get(form) ?? '')) last.set(form, day)
  return forms.flatMap(({ id, createdAt, publishedAt }) =>
    // What was made or published lately has had no time.
    (publishedAt ?? createdAt).slice(0, 10) < since && (last.get(id) ?? '') < since
      ? [{ id, last: last.get(id) ?? null }]
      : [],
  )
}
