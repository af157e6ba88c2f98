import type { BatchId, FormId, SpotId } from '#core/ids'
import type { Condition, Filter, List } from '#core/list'
import { statusNames } from '../status'

/** Names of what conditions refer to by ids. */
export interface ConditionNames {
  list: Pick<List, 'columns'>
  form(id: FormId): string
  spot(id: SpotId): string
  batch(id: BatchId): string
}

/** A filter as its owner would say it. */
export function sentenceOf({ join, conditions }: Filter, names: ConditionNames): string {
  return conditions.map((condition) => conditionWords(condition, names)).join(join === 'and' ? ' and ' : ' or ')
}

function conditionWords(condition: Condition, { list, form, spot, batch }: ConditionNames): string {
  const is = 'is' in condition && !condition.is ? 'is not' : 'is'
  switch (condition.about) {
    case 'status':
      return `status ${is} ${statusNames[condition.status]}`
    case 'tag':
      return `tag ${is} ${condition.tag}`
    case 'form':
      return `form ${is} “${form(condition.form)}”`
    case 'spot':
      return `spot ${is} ${spot(condition.spot)}`
    case 'page':
      return `page ${condition.is ? 'has' : 'does not have'} “${condition.page}”`
    case 'source':
      return `source ${condition.is ? 'has' : 'does not have'} “${condition.source}”`
    case 'import':
      return `${condition.is ? '' : 'not '}brought in from “${batch(condition.batch)}”`
    case 'added':
      return condition.is ? 'added by hand' : 'not added by hand'
    case 'joined-within':
      return `${condition.is ? '' : 'not '}joined in the last ${condition.days} days`
    case 'joined-before':
      return `joined before ${condition.day}`
    case 'joined-from':
      return `joined on ${condition.day} or later`
    case 'column': {
      const label =
        condition.column === 'email'
          ? 'email'
          : (list.columns.find(({ key }) => key === condition.column)?.label ?? condition.column)
      return `${label} ${columnWords[condition.how]}${condition.how === 'empty' || condition.how === 'filled' ? '' : ` “${condition.text}”`}`
    }
  }
}

export const columnWords = {
  is: 'is',
  'is-not': 'is not',
  has: 'has',
  'has-not': 'does not have',
  empty: 'is empty',
  filled: 'is filled',
} as const
