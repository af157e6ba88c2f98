import type { Field } from '#core/form'

/** How many questions a form asks, and how many of them may be left out: each costs sign-ups (common practice, no published source). */
export function questionsAsked(fields: readonly Field[]): { asked: number; optional: number } {
  const questions = fields.filter(({ kind }) => kind !== 'hidden' && kind !== 'join-box')
  return { asked: questions.length, optional: questions.filter(({ required }) => !required).length }
}
