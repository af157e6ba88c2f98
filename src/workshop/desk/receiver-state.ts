import type { CareState, ClockLeap, LetterNeed, MailState, SiteNeed } from '#core/api'
import { createSharedComposable, useIntervalFn } from '@vueuse/core'
import { computed, shallowRef, watch } from 'vue'
import { addressProblem, isLoopback } from '#core/site'
import { clientFor } from '../client'
import { isDemo, useWorkspace } from '../data'
import { useReceiver } from '../sync'

const LOOK_MS = 60_000

/** One thing that a real Ask Box needs. */
export interface Want {
  name: string
  why: string
  isDone: boolean
  to: object
}

/** How mail goes at the receiver, its clock, and what it still lacks to serve visitors. */
export const useReceiverState = createSharedComposable(() => {
  const workspace = useWorkspace()
  const receiver = useReceiver()
  /** Null while that is not known. */
  const mail = shallowRef<MailState | null>(null)
  const leap = shallowRef<ClockLeap | null>(null)
  const refused = shallowRef<{ networks: number; most: number } | null>(null)
  const care = shallowRef<CareState | null>(null)
  const letters = shallowRef<readonly LetterNeed[]>([])
  const pages = shallowRef<readonly SiteNeed[]>([])
  async function look(): Promise<void> {
    const client = receiver.pairing === null ? null : clientFor({ ...receiver.pairing })
    mail.value = (await client?.mailState().catch(() => null)) ?? null
    care.value = (await client?.care().catch(() => null)) ?? null
    letters.value = (await client?.lettersNeedingHand().catch(() => null))?.needs ?? []
    pages.value = (await client?.crawlNeeds().catch(() => null))?.needs ?? []
    const told = (await client?.describe().catch(() => null)) ?? null
    leap.value = told?.leap ?? null
    refused.value = told?.refusedToday ?? null
  }
  // Its words: each setting that is kept makes another object of the same.
  watch(() => JSON.stringify(receiver.pairing), look, { immediate: true })
  useIntervalFn(() => void look(), LOOK_MS)

  const isOnline = computed(() => {
    const url = receiver.publicUrl
    return url !== null && url.startsWith('https:') && !isLoopback(new URL(url).hostname)
  })
  const hasPretendSites = computed(() =>
    workspace.sites.some(({ address }) => addressProblem(address) === null && isLoopback(new URL(address).hostname)),
  )
  const wants = computed((): Want[] =>
    isDemo || hasPretendSites.value || receiver.pairing === null || mail.value === null
      ? []
      : [
          {
            name: 'A web address for Ask Box',
            why: 'Until Ask Box is online, forms work on no real site.',
            isDone: isOnline.value,
            to: { name: 'settings', hash: '#online' },
          },
          {
            name: 'A mail server',
            why: 'It sends confirmations, welcomes and gifts.',
            isDone: mail.value.server !== null,
            to: { name: 'mail-room' },
          },
          {
            name: 'Backups by themselves',
            why: 'Made every day; the first one within minutes, or now in Settings.',
            isDone: care.value !== null && care.value.backups.isOn && care.value.backups.last !== null,
            to: { name: 'settings', hash: '#backups' },
          },
        ],
  )
  return { mail, leap, refused, care, letters, pages, isOnline, wants }
})
