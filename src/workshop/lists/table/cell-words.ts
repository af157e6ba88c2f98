import type { BatchId } from '#core/ids'
import type { CameFrom } from '#core/journal'
import { type BatchRecord, valueOf } from '#core/list'
import { spotKinds } from '#core/spot'
import { shownMoment, shownPage } from '../../controls'
import { useWorkspace } from '../../data'
import type { ShownMember } from '../../people'
import { statusNames } from '../status'
import { isBlank } from './found'

/**
 * What stands in the cells of a table of people that hold words only.
 *
 * @param imports files that people came in by
 */
export function useCellWords(imports: () => readonly BatchRecord[]) {
  const workspace = useWorkspace()

  function whereFrom(member: ShownMember): string {
    if (member.from === null) return member.batch === undefined ? 'added by hand' : broughtBy(member.batch)
    const spot = workspace.spot(member.from.spot)
    const site = spot && workspace.site(spot.site)
    const kind = spotKinds.find((one) => one.kind === spot?.kind)?.name.toLowerCase() ?? 'spot'
    return [...told(member.from.cameFrom), kind, site?.name ?? 'a deleted site'].join(' · ')
  }

  function broughtBy(batch: BatchId): string {
    const purpose = imports().find(({ id }) => id === batch)?.purpose
    return purpose?.kind === 'import' ? `from “${purpose.from}”` : 'brought over'
  }

  return (key: string, member: ShownMember): string => {
    if (isBlank(member)) return ''
    if (key.startsWith('column ')) return valueOf(member, key.slice('column '.length))
    switch (key) {
      case 'email':
        return member.email.typed
      case 'tags':
        return member.tags?.join(', ') ?? ''
      case 'status':
        return `${statusNames[member.status]}${member.isPending ? ', being sent' : ''}`
      case 'since':
        return shownMoment(member.joinedAt)
      case 'spot':
        return whereFrom(member)
      default:
        return member.from?.page ? pathOf(member.from.page) : ''
    }
  }
}

/** The site stands beside it already: what tells pages apart is the rest. */
function pathOf(page: string): string {
  const path = URL.canParse(page) ? new URL(page).pathname : '/'
  return path === '/' ? shownPage(page) : path
}

/** What the spot or the campaign is called, by which owners tell places apart: it stands first, where nothing cuts it off. */
function told(from: CameFrom | undefined): string[] {
  return [from?.source, from?.campaign].flatMap((words) => (words ? [words] : []))
}
