import { computed, type ComputedRef } from 'vue'
import type { LetterNeed, SiteNeed } from '#core/api'
import { messagesInUse } from '#core/mail'
import { leapWords } from '../controls'
import { useWorkspace } from '../data'
import { useReceiverState } from './receiver-state'

/** One thing that waits for the owner. */
export interface Need {
  key: string
  /** What keeps sign-ups from arriving comes first, what can wait comes last. */
  order: 1 | 2 | 3 | 4
  text: string
  to: object
  about: string
}

const letterWords = {
  asks: 'waits for your yes: look at it, and send it.',
  stopped: 'stopped by itself: look at why, then go on or cancel it.',
  feed: 'cannot be read:',
}
function letterNeed({ kind, id, title, said }: LetterNeed): Need {
  return {
    key: `letter ${id}`,
    order: 2,
    text: kind === 'feed' ? `The feed “${title}” ${letterWords.feed} ${said}` : `“${title}” ${letterWords[kind]}`,
    to: kind === 'feed' ? { name: 'feed', params: { id } } : { name: 'sending', params: { id } },
    about: 'Letters',
  }
}

function siteNeed({ site, spot, said, pages }: SiteNeed, name: string): Need {
  const where = pages.length === 1 ? pages[0]! : `${pages.length} pages`
  return {
    key: `pages ${spot}`,
    order: 2,
    text: `${said} Seen on ${where} of ${name}.`,
    to: { name: 'site-pages', params: { id: site } },
    about: name,
  }
}

/** What the receiver tells that waits for the owner: a damaged store, mail that does not go, a clock that leapt. */
export function useReceiverNeeds(): ComputedRef<Need[]> {
  const workspace = useWorkspace()
  const { mail, leap, care, letters, pages } = useReceiverState()
  const senders = computed(() =>
    workspace.lists.flatMap(({ id, name }) => {
      const published = workspace.mail(id)?.published ?? null
      return published !== null && messagesInUse(published).length > 0 ? [name] : []
    }),
  )
  return computed((): Need[] => {
    if (mail.value === null) return []
    const { server, isStopped, halted, wronglyMarked, counts } = mail.value
    const waiting = counts.waiting === 1 ? '1 mail waits.' : counts.waiting > 1 ? `${counts.waiting} mails wait.` : ''
    const about = { to: { name: 'mail-room' }, about: 'Mail room' }
    const backupProblem = care.value?.backups.problem ?? null
    const ofStore = (care.value?.alerts.raised ?? []).filter(({ key }) => key.startsWith('store-'))
    return [
      ...letters.value.map(letterNeed),
      ...pages.value.map((need) => siteNeed(need, workspace.site(need.site)?.name ?? 'a site')),
      ...ofStore.map(({ key, subject }) => ({
        key,
        order: 1 as const,
        text: `${subject}. What to do stands there.`,
        to: { name: 'settings', hash: '#alerts' },
        about: 'When something breaks',
      })),
      ...(backupProblem === null
        ? []
        : [
            {
              key: 'backup failed',
              order: 2 as const,
              text: `The daily backup could not be made: ${backupProblem.said}`,
              to: { name: 'settings', hash: '#backups' },
              about: 'Backups',
            },
          ]),
      ...(leap.value === null
        ? []
        : [
            {
              key: 'clock',
              order: 2 as const,
              text: leapWords(leap.value),
              to: { name: 'settings' },
              about: 'Settings',
            },
          ]),
      ...(server === null && senders.value.length > 0
        ? [
            {
              ...about,
              key: 'mail server',
              order: 1 as const,
              text: `No mail server is set up, and ${senders.value.map((name) => `“${name}”`).join(' and ')} should send mail. ${waiting}`,
            },
          ]
        : []),
      ...(server !== null && isStopped && counts.waiting > 0
        ? [{ ...about, key: 'mail stopped', order: 2 as const, text: `Sending is stopped. ${waiting}` }]
        : []),
      ...(server !== null && halted !== null
        ? [
            {
              ...about,
              key: 'mail halted',
              order: 1 as const,
              text: `The mail server refuses mail to everybody, so sending stopped by itself. ${waiting} It said: ${halted.said}`,
            },
          ]
        : []),
      ...(wronglyMarked > 0
        ? [
            {
              ...about,
              key: 'mail marked',
              order: 2 as const,
              text: `${wronglyMarked === 1 ? '1 person was' : `${wronglyMarked} people were`} marked as taking no mail for a fault of the sender. Put them back by one press there.`,
            },
          ]
        : []),
      ...(counts.refused > 0
        ? [
            {
              ...about,
              key: 'mail refused',
              order: 2 as const,
              text: `${counts.refused === 1 ? '1 mail was' : `${counts.refused} mails were`} refused. The reason stands there.`,
            },
          ]
        : []),
    ]
  })
}
