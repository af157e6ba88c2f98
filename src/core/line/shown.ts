import type { AnswerCase, FormContent, Version } from '#core/form'

/** What the Form station shows. */
export function asked({ answers: _, shape: _shape, ...rest }: FormContent) {
  return rest
}

/** What the Answer station shows of one case: the answer, in the form's look and language. */
export function answered(content: FormContent, one: AnswerCase) {
  const { answers, look, language, texts } = content
  return { answer: answers[one], look, language, texts }
}

/** What a form is by itself; versions that are only tried are none. */
export const latestOf = (versions: readonly Version[]): Version | undefined =>
  newest(
    versions.filter(({ isTried }) => !isTried),
    (version) => version.number,
  )

export function newest<T>(all: readonly T[], order: (one: T) => number): T | undefined {
  return all.reduce<T | undefined>(
    (best, one) => (best === undefined || order(one) > order(best) ? one : best),
    undefined,
  )
}
