import type { MemberStatus } from '#core/list'

export const statusNames: Record<MemberStatus, string> = {
  waiting: 'waiting',
  confirmed: 'on the list',
  left: 'left',
  removed: 'removed',
  bounced: 'bounced',
}
