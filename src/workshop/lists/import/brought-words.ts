import type { MemberStatus } from '#core/list'
import type { Brought } from './import-in-hand'

const newAs: Record<MemberStatus, string> = {
  confirmed: 'new on the list',
  waiting: 'to confirm',
  left: 'kept as having left',
  removed: 'kept as removed',
  bounced: 'kept as bounced',
}

/** “91 new on the list, 27 to confirm, 63 kept as having left, 4 changed who were on it before”. */
export function broughtWords({ statuses, changed }: Pick<Brought, 'statuses' | 'changed'>): string {
  const order = ['confirmed', 'waiting', 'left', 'removed', 'bounced'] satisfies MemberStatus[]
  const words = order
    .filter((status) => statuses[status] > 0)
    .map((status) => `${statuses[status].toLocaleString('en')} ${newAs[status]}`)
  if (changed > 0) words.push(`${changed.toLocaleString('en')} changed who were on it before`)
  return words.length === 0 ? 'nobody' : words.join(', ')
}
