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
  const { mail, leap, care, letters, pages, refused } = useReceiverState()
  const senders = computed(() =>
    workspace.lists.flatMap(({ id, name }) => {
      const published = workspace.mail(id)?.published ?? null
      return published !== null && messagesInUse(published).length > 0 ? [name] : []
    }),
  )
  return computed((): Need[] => {
    if (mail.value === null) return []
    return [
      ...letters.value.map(letterNeed),
      ...pages.value.map((need) => siteNeed(need, workspace.site(need.site)?.name ?? 'a site')),
      ...careNeeds(care.value),
      ...(leap.value === null ? [] : [clockNeed(leap.value)]),
      ...mailNeeds(mail.value, senders.value),
      ...refusedNeeds(refused.value),
    ]
  })
}

type State = ReturnType<typeof useReceiverState>
type StateOf<Part extends 'mail' | 'care' | 'leap'> = State[Part]['value']

function careNeeds(care: StateOf<'care'>): Need[] {
  const backupProblem = care?.backups.problem ?? null
  const ofStore = (care?.alerts.raised ?? []).filter(({ key }) => key.startsWith('store-'))
  return [
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
  ]
}

/** So many refusals of one network are no slip of a hand. */
const TOLD_FROM = 100

function refusedNeeds(refused: { networks: number; most: number } | null): Need[] {
  if (refused === null || refused.most < TOLD_FROM) return []
  const times = refused.most.toLocaleString('en-GB')
  return [
    {
      key: 'networks refused',
      order: 4,
      text: `One network was refused ${times} times today${refused.networks > 1 ? `, and ${refused.networks - 1} more at times` : ''}: it asked for far more than visitors do. Everybody else is served as always.`,
      to: { name: 'settings', hash: '#browsers' },
      about: 'Who may come in',
    },
  ]
}

function clockNeed(leap: NonNullable<StateOf<'leap'>>): Need {
  return { key: 'clock', order: 2, text: leapWords(leap), to: { name: 'settings' }, about: 'Settings' }
}

const listed = (names: readonly string[]) =>
  names.length > 3 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more` : names.join(' and ')

/** @param senders names of the lists that should send mail */
function mailNeeds(mail: NonNullable<StateOf<'mail'>>, senders: readonly string[]): Need[] {
  const { server, isStopped, halted, refusing, wronglyMarked, counts } = mail
  const waiting = counts.waiting === 1 ? '1 mail waits.' : counts.waiting > 1 ? `${counts.waiting} mails wait.` : ''
  const need = (key: string, order: Need['order'], text: string): Need => ({
    ...{ key, order, text, to: { name: 'mail-room' }, about: 'Mail room' },
  })
  const needs: (Need | false)[] = [
    server === null &&
      senders.length > 0 &&
      need(
        'mail server',
        1,
        `No mail server is set up, and ${senders.map((name) => `“${name}”`).join(' and ')} should send mail. ${waiting}`,
      ),
    server !== null && isStopped && counts.waiting > 0 && need('mail stopped', 2, `Sending is stopped. ${waiting}`),
    server !== null &&
      halted !== null &&
      need(
        'mail halted',
        1,
        `The mail server refuses mail to everybody, so sending stopped by itself. ${waiting} It said: ${halted.said}`,
      ),
    refusing.length > 0 &&
      need(
        'mail refusing',
        2,
        `${listed(refusing.map(({ domain }) => domain))} ${refusing.length === 1 ? 'takes' : 'take'} none of you. Nobody is marked; the others go on. It said: ${refusing[0]!.said}`,
      ),
    wronglyMarked > 0 &&
      need(
        'mail marked',
        2,
        `${wronglyMarked === 1 ? '1 person was' : `${wronglyMarked} people were`} marked as taking no mail for a fault of the sender. Put them back by one press there.`,
      ),
    counts.refused > 0 &&
      need(
        'mail refused',
        2,
        `${counts.refused === 1 ? '1 mail was' : `${counts.refused} mails were`} refused. The reason stands there.`,
      ),
  ]
  return needs.filter((one) => one !== false)
}
