import type { BatchRecord, Condition, List, Wanted } from '#core/list'
import { spotName } from '#core/spot'
import { shownDay } from '../../controls'
import { useWorkspace } from '../../data'
import { statusNames } from '../status'

/** A condition as words: “Tag is school”, “joined in the last 30 days”. */
type ConditionWords = (condition: Condition) => string

/** How people were found: “Found by “school” and Tag is night.” Empty for everybody. */
export function wantedWords(wanted: Wanted, wordsOf: ConditionWords): string {
  const { search = '', filter, only, except = [], status } = wanted
  const parts = [
    ...(search.trim() === '' ? [] : [`“${search.trim()}”`]),
    ...(status === undefined ? [] : [`status is ${statusNames[status]}`]),
    ...(filter === undefined || filter.conditions.length === 0
      ? []
      : [filter.conditions.map(wordsOf).join(filter.join === 'and' ? ' and ' : ' or ')]),
  ]
  const found = parts.length === 0 ? '' : `found by ${parts.join(', ')}`
  const words =
    only !== undefined
      ? `Chosen one by one${found === '' ? '' : ` among those ${found}`}`
      : found === ''
        ? 'Everybody on this list'
        : `All who are ${found}`
  return `${words}${except.length > 0 ? `, but for ${except.length} left out` : ''}.`
}

export function useConditionNames(list: () => List, imports: () => readonly BatchRecord[]): ConditionWords {
  const workspace = useWorkspace()
  const isOrNot = (is: boolean) => (is ? 'is' : 'is not')
  return (condition) => {
    switch (condition.about) {
      case 'status':
        return `status ${isOrNot(condition.is)} ${statusNames[condition.status]}`
      case 'tag':
        return `tag ${isOrNot(condition.is)} “${condition.tag}”`
      case 'form':
        return `form ${isOrNot(condition.is)} “${workspace.form(condition.form)?.name ?? 'one that is gone'}”`
      case 'spot': {
        const spot = workspace.spot(condition.spot)
        return `spot ${isOrNot(condition.is)} “${spot === null ? 'one that is gone' : spotName(spot, workspace.sites)}”`
      }
      case 'page':
        return `page ${condition.is ? 'has' : 'does not have'} “${condition.page}”`
      case 'source':
        return `source ${condition.is ? 'has' : 'does not have'} “${condition.source}”`
      case 'import': {
        const record = imports().find(({ id }) => id === condition.batch)
        const name = record?.purpose.kind === 'import' ? record.purpose.from : 'a file'
        return `${condition.is ? '' : 'not '}brought in from “${name}”`
      }
      case 'added':
        return `${condition.is ? '' : 'not '}added by hand`
      case 'joined-within':
        return `joined ${condition.is ? '' : 'not '}in the last ${condition.days} days`
      case 'joined-before':
        return `joined before ${shownDay(condition.day)}`
      case 'joined-from':
        return `joined on or after ${shownDay(condition.day)}`
      case 'column': {
        const { column, how, text } = condition
        const label = column === 'email' ? 'Email' : (list().columns.find(({ key }) => key === column)?.label ?? column)
        const words = { is: 'is', 'is-not': 'is not', has: 'has', 'has-not': 'does not have' } as const
        return how === 'empty' || how === 'filled' ? `${label} is ${how}` : `${label} ${words[how]} “${text}”`
      }
    }
  }
}
