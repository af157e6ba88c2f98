import { computed, type Ref, shallowRef, watch } from 'vue'
import {
  linksOfLetter,
  type LetterContent,
  type LetterFinding,
  letterFindings,
  picturesOf,
  renderLetter,
} from '#core/letter'
import type { List } from '#core/list'
import type { MailSettings } from '#core/mail'
import { bytesIn } from '#core/picture'
import type { LetterReadersNow, SenderFinding, TriedLink } from '#core/api'
import { clientFor } from '../client'
import { useWorkspace } from '../data'
import { useReceiver } from '../sync'

const REST_MS = 600

/**
 * A look at a letter before it goes: what can be told at once of its words, and what the receiver finds of its readers, its
 * links and its sender.
 */
export function useLetterLook(
  content: Ref<LetterContent | null>,
  list: Ref<List | null>,
  settings: Ref<MailSettings | null>,
) {
  const workspace = useWorkspace()
  const receiver = useReceiver()
  const readers = shallowRef<LetterReadersNow | null>(null)
  const links = shallowRef<TriedLink[] | null>(null)
  const sender = shallowRef<SenderFinding[] | null>(null)
  const problem = shallowRef('')

  const findings = computed((): LetterFinding[] => {
    const [letter, of, mail] = [content.value, list.value, settings.value]
    if (letter === null || of === null) return []
    const noList: LetterFinding[] =
      letter.lists.length > 0
        ? []
        : [{ code: 'no-list', weight: 'stops', message: 'Choose whose people get it.', reason: '' }]
    const pictureBytes = new Map(
      picturesOf(letter).flatMap((id) => {
        const picture = workspace.pictures.find((one) => one.id === id)
        return picture === undefined ? [] : [[id, bytesIn(picture.bytes)] as const]
      }),
    )
    const rendered =
      mail === null
        ? null
        : renderLetter(letter, {
            list: of,
            settings: mail,
            facts: {
              ...{ firstName: 'Wren', leaveLink: `${PLACE}/leave/${TOKEN}`, webCopy: `${PLACE}/letter/${TOKEN}` },
              ...{ pictureAddress: (id) => `${PLACE}/picture/${id}`, pageOf: (spot) => `${PLACE}/page/${spot}` },
            },
          })
    return noList.concat(
      letterFindings({
        body: letter,
        settings: mail,
        pictureBytes,
        htmlBytes: new TextEncoder().encode(rendered?.html ?? '').length,
        plain: rendered === null ? 'unknown' : rendered.text.slice(0, rendered.text.lastIndexOf('-- \n')),
      }),
    )
  })
  const stops = computed(() => findings.value.filter(({ weight }) => weight === 'stops'))
  const tells = computed(() => findings.value.filter(({ weight }) => weight === 'look'))

  /** Asks the receiver; what it answers to an older letter is not shown. */
  let asked = 0
  async function ask(): Promise<void> {
    const [letter, mail] = [content.value, settings.value]
    if (letter === null || receiver.pairing === null) return
    const mine = ++asked
    if (letter.lists.length === 0) {
      readers.value = null
      return
    }
    const client = clientFor({ ...receiver.pairing })
    try {
      const [found, tried, senders] = await Promise.all([
        client.readersOf(letter),
        linksOfLetter(letter).length === 0 || receiver.bearer?.right === 'reader'
          ? []
          : client.tryLinksOf(letter).then((answer) => answer.links),
        mail === null ? [] : client.checkSender(mail.senderAddress, mail.bounceAddress).then((one) => one.findings),
      ])
      if (mine !== asked) return
      readers.value = found
      links.value = tried
      sender.value = senders
      problem.value = ''
    } catch (error) {
      if (mine === asked) problem.value = error instanceof Error ? error.message : String(error)
    }
  }
  let timer: ReturnType<typeof setTimeout> | undefined
  watch(
    () => JSON.stringify([content.value?.lists, content.value?.readers, content.value && linksOfLetter(content.value)]),
    () => {
      clearTimeout(timer)
      timer = setTimeout(() => void ask(), REST_MS)
    },
    { immediate: true },
  )
  return { findings, stops, tells, readers, links, sender, problem, ask }
}
export type LetterLook = ReturnType<typeof useLetterLook>

const PLACE = 'https://forms.your-site.example'
const TOKEN = 'bcdfghjkmnpq-bcdfghjkmnpq-bcdfghjkmnpqrstvwxz23'
