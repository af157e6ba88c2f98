import { z } from 'zod'
import { addressesIn, ofPeople } from '#core/privacy'
import { batchIdSchema, formIdSchema, spotIdSchema } from '#core/ids'
import { columnKeySchema } from '#core/journal'
import { harmlessText, plainLine } from '#core/text'
import { type Member, type MemberStatus, memberStatuses, valueOf } from './member'

const isOrNot = { is: z.boolean() }
const text = harmlessText.max(1000)
const day = z.iso.date()

/** One thing that holds of somebody or not. */
export const conditionSchema = z.discriminatedUnion('about', [
  z.strictObject({ about: z.literal('status'), ...isOrNot, status: z.enum(memberStatuses) }),
  z.strictObject({ about: z.literal('tag'), ...isOrNot, tag: text }),
  z.strictObject({ about: z.literal('form'), ...isOrNot, form: formIdSchema }),
  z.strictObject({ about: z.literal('spot'), ...isOrNot, spot: spotIdSchema }),
  z.strictObject({ about: z.literal('page'), ...isOrNot, page: text }),
  /** What the spot, the link or the campaign was marked with. */
  z.strictObject({ about: z.literal('source'), ...isOrNot, source: text }),
  z.strictObject({ about: z.literal('import'), ...isOrNot, batch: batchIdSchema }),
  z.strictObject({ about: z.literal('added'), ...isOrNot }),
  z.strictObject({ about: z.literal('joined-within'), ...isOrNot, days: z.int().min(1).max(36_500) }),
  z.strictObject({ about: z.literal('joined-before'), day }),
  z.strictObject({ about: z.literal('joined-from'), day }),
  /** An empty text: whether anything is there. */
  z.strictObject({
    about: z.literal('column'),
    column: z.union([columnKeySchema, z.literal('email')]),
    how: z.enum(['is', 'is-not', 'has', 'has-not', 'empty', 'filled']),
    text,
  }),
])
export type Condition = z.infer<typeof conditionSchema>

export const filterSchema = z.strictObject({
  /** Whether all of them have to hold, or one. */
  join: z.enum(['and', 'or']),
  conditions: ofPeople(z.array(conditionSchema).max(20)),
})
export type Filter = z.infer<typeof filterSchema>

export const savedFilterSchema = z.strictObject({ name: addressesIn(plainLine), filter: filterSchema })
export type SavedFilter = z.infer<typeof savedFilterSchema>

type Origin = Pick<Member, 'from' | 'batch'>
type Answers = Pick<Member, 'values' | 'tags'>

/** A condition as a question about the part of somebody that it looks at: so that it is asked once for what many share. */
export type Question =
  | { of: 'status'; holds(status: MemberStatus): boolean }
  | { of: 'answers'; holds(answers: Answers): boolean }
  | { of: 'origin'; holds(origin: Origin): boolean }
  | { of: 'joined'; holds(joined: number): boolean }
  | { of: 'email'; holds(typed: string): boolean }

/** @param now milliseconds since 1970 */
export function questionOf(condition: Condition, now: number): Question {
  switch (condition.about) {
    case 'status':
      return { of: 'status', holds: (status) => (status === condition.status) === condition.is }
    case 'tag':
      return { of: 'answers', holds: ({ tags = [] }) => tags.includes(condition.tag) === condition.is }
    case 'form':
      return { of: 'origin', holds: ({ from }) => (from?.form === condition.form) === condition.is }
    case 'spot':
      return { of: 'origin', holds: ({ from }) => (from?.spot === condition.spot) === condition.is }
    case 'page':
      return { of: 'origin', holds: ({ from }) => hasWords(from?.page ?? '', condition.page) === condition.is }
    case 'source':
      return {
        of: 'origin',
        holds: ({ from }) =>
          [from?.cameFrom?.source, from?.cameFrom?.campaign, from?.cameFrom?.referrer].some((one = '') =>
            hasWords(one, condition.source),
          ) === condition.is,
      }
    case 'import':
      return { of: 'origin', holds: ({ batch }) => (batch === condition.batch) === condition.is }
    case 'added':
      return { of: 'origin', holds: ({ from, batch }) => (from === null && batch === undefined) === condition.is }
    case 'joined-within': {
      const from = now - condition.days * 86_400_000
      return { of: 'joined', holds: (joined) => joined >= from === condition.is }
    }
    case 'joined-before': {
      const day = Date.parse(condition.day)
      return { of: 'joined', holds: (joined) => joined < day }
    }
    case 'joined-from': {
      const day = Date.parse(condition.day)
      return { of: 'joined', holds: (joined) => joined >= day }
    }
    case 'column': {
      const holds = holdsOfText(condition.how, condition.text)
      if (condition.column === 'email') return { of: 'email', holds }
      return { of: 'answers', holds: (answers) => holds(valueOf(answers, condition.column)) }
    }
  }
}

function hasWords(text: string, words: string): boolean {
  return words !== '' && text.toLowerCase().includes(words.toLowerCase())
}

function holdsOfText(how: Extract<Condition, { about: 'column' }>['how'], text: string): (value: string) => boolean {
  const wanted = text.trim().toLowerCase()
  switch (how) {
    case 'is':
      return (value) => value.trim().toLowerCase() === wanted
    case 'is-not':
      return (value) => value.trim().toLowerCase() !== wanted
    case 'has':
      return (value) => value.toLowerCase().includes(wanted)
    case 'has-not':
      return (value) => !value.toLowerCase().includes(wanted)
    case 'empty':
      return (value) => value.trim() === ''
    case 'filled':
      return (value) => value.trim() !== ''
  }
}

/** Whether a filter holds of somebody. One without conditions holds of everybody. */
export function matches({ join, conditions }: Filter, member: Member, now: number): boolean {
  const holds = (condition: Condition) => {
    const question = questionOf(condition, now)
    switch (question.of) {
      case 'status':
        return question.holds(member.status)
      case 'answers':
        return question.holds(member)
      case 'origin':
        return question.holds(member)
      case 'joined':
        return question.holds(Date.parse(member.joinedAt))
      case 'email':
        return question.holds(member.email.typed)
    }
  }
  if (conditions.length === 0) return true
  return join === 'and' ? conditions.every(holds) : conditions.some(holds)
}

/** Whether a condition says something: one whose value is still to be typed does not. */
function saysSomething(condition: Condition): boolean {
  switch (condition.about) {
    case 'tag':
      return condition.tag.trim() !== ''
    case 'page':
      return condition.page.trim() !== ''
    case 'source':
      return condition.source.trim() !== ''
    case 'column':
      return condition.how === 'empty' || condition.how === 'filled' || condition.text.trim() !== ''
    case 'form':
      return condition.form !== ('' as string)
    case 'spot':
      return condition.spot !== ('' as string)
    case 'import':
      return condition.batch !== ('' as string)
    default:
      return true
  }
}

/**
 * A filter while it is made: conditions without a value filter nothing yet. What is kept, or written by, is only such a
 * whole one: a stored condition without a value holds of nobody.
 */
export const withoutUnsaid = ({ join, conditions }: Filter): Filter => ({
  join,
  conditions: conditions.filter(saysSomething),
})
