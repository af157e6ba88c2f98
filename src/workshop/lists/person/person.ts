import { useIntervalFn } from '@vueuse/core'
import { computed, type ComputedRef, type Ref, ref, type ShallowRef, shallowRef, watch } from 'vue'
import type { LetterCopy, MailOnList, ToMember } from '#core/api'
import type { ListId, MemberId } from '#core/ids'
import type { SentMessage } from '#core/journal'
import { frameWords, spotName } from '#core/spot'
import { clientFor } from '../../client'
import { messagesFrom, type QueuedCommand, queuedCommands, useLive, useWorkspace } from '../../data'
import { useKeyNames, useReceiver } from '../../sync'
import { type PersonFacts, useMembers } from '../../people'
import { type TimelineEvent, timelineOf } from './timeline'

const LOOK_EVERY_MS = 3_000

/** One person on one list, kept current. */
export function usePerson(
  list: () => ListId,
  member: () => MemberId,
): {
  /** Null until it is known, and for who is not there. */
  person: Readonly<ShallowRef<PersonFacts | null>>
  isKnown: Readonly<Ref<boolean>>
  /** All that happened to them, newest first. */
  events: ComputedRef<TimelineEvent[]>
  /** Those that the receiver still knows of. */
  mails: Readonly<ShallowRef<readonly MailOnList[]>>
  letters: Readonly<ShallowRef<readonly LetterCopy[]>>
} {
  const workspace = useWorkspace()
  const members = useMembers()
  const receiver = useReceiver()
  const keyNames = useKeyNames()
  const person = shallowRef<PersonFacts | null>(null)
  const isKnown = ref(false)
  const mails = shallowRef<readonly MailOnList[]>([])
  const gift = shallowRef<ToMember['gift']>({ times: 0, last: 0 })
  const letters = shallowRef<readonly LetterCopy[]>([])
  const queued = useLive(
    async () => (await queuedCommands()).filter(({ command }) => command.member === member()),
    [] as QueuedCommand[],
    [member],
  )

  watch([list, member], () => {
    person.value = null
    isKnown.value = false
    mails.value = []
    gift.value = { times: 0, last: 0 }
    letters.value = []
  })
  let asked = 0
  watch(
    [list, member, () => members.changes, queued],
    async () => {
      const mine = ++asked
      const answer = await members.person(list(), member(), queued.value)
      if (mine !== asked) return
      person.value = answer
      isKnown.value = true
    },
    { immediate: true },
  )

  /** Mail is known to the receiver alone; while it is away, the rest is told. */
  async function lookAtMails(): Promise<void> {
    const wanted = member()
    if (receiver.pairing === null) return
    const answer = await clientFor(receiver.pairing)
      .mailsToMember(wanted)
      .catch(() => null)
    if (answer === null || wanted !== member()) return
    mails.value = answer.mails
    gift.value = answer.gift
    const got = await clientFor(receiver.pairing)
      .lettersOf(wanted)
      .catch(() => null)
    if (got !== null && wanted === member()) letters.value = got.letters
  }
  watch([member, () => receiver.pairing, person], lookAtMails, { immediate: true })
  useIntervalFn(() => void lookAtMails(), LOOK_EVERY_MS)

  const address = computed(() => person.value?.member.email.compared ?? '')
  const messages = useLive(
    () => (address.value === '' ? Promise.resolve([]) : messagesFrom(address.value)),
    [] as SentMessage[],
    [address],
  )

  const events = computed(() => {
    const ownList = workspace.list(list())
    if (person.value === null || ownList === null) return []
    const { batches } = person.value
    return timelineOf(
      person.value,
      { mails: mails.value, gift: gift.value, letters: letters.value, messages: messages.value },
      {
        list: ownList,
        form: (id) => workspace.form(id)?.name ?? 'a form that is gone',
        spot: (id) => {
          const spot = workspace.spot(id)
          return spot === null ? 'a place that is gone' : spotName(spot, workspace.sites)
        },
        frameAt: (id, page) => frameWords(workspace.spot(id), workspace.sites, page),
        otherList: (id) => workspace.list(id)?.name ?? 'a list that is gone',
        batch: (id) => batches.find((one) => one.id === id) ?? null,
        key: (id) => keyNames.nameOf(id),
      },
    )
  })
  return { person, isKnown, events, mails, letters }
}
