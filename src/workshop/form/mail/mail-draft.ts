import { sameValue } from '#core/json'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { type FormContent } from '#core/form'
import type { List } from '#core/list'
import type { Mail, MailSettings } from '#core/mail'
import { startMail } from '#core/message'
import { type Site, siteHost } from '#core/site'
import { useWorkspace } from '../../data'
import { type Document, useDocument } from '../../document'

/**
 * A list's mail in hand.
 *
 * @param from what a list that has no mail yet starts from: what its form and its site already say
 */
export function useMailDraft(
  list: MaybeRefOrGetter<List | null>,
  from: () => { content: FormContent | null; site: Site | null },
) {
  const workspace = useWorkspace()
  const document: Document<'mail'> = useDocument('mail', () => toValue(list)?.id ?? null, {
    start() {
      const of = toValue(list)
      return of === null ? null : startFrom(of, from())
    },
  })
  const stored = computed(() => {
    const of = toValue(list)
    return of === null ? null : workspace.mail(of.id)
  })
  const settings = computed((): MailSettings | null => document.parts.value?.draft ?? null)
  const published = computed(() => stored.value?.published ?? null)
  return {
    ...document,
    settings,
    published,
    /** Whether what is written is what is sent. */
    isPublished: computed(
      () => stored.value === null || settings.value === null || sameValue(settings.value, published.value),
    ),
    change: (name: string, part: string, recipe: (settings: MailSettings) => void) =>
      document.change(name, part, ({ draft }) => recipe(draft)),
  }
}
export type MailDraft = ReturnType<typeof useMailDraft>

function startFrom(list: List, { content, site }: { content: FormContent | null; site: Site | null }): Mail {
  const look = content?.look.colours
  const colours =
    look === undefined
      ? undefined
      : { ground: look.background, text: look.text, button: look.button, buttonText: look.buttonText }
  const start = startMail(list.id, list.name, content?.language, colours)
  return { ...start, draft: { ...start.draft, senderName: site?.name ?? list.name } }
}

/** An address that a site of this name might send from. */
export function likelySender(site: Site | null): string {
  const host = site === null ? '' : siteHost(site.address).replace(/^www\./, '')
  return /^[a-z0-9-]+(\.[a-z0-9-]+)+$/i.test(host) ? `letters@${host}` : 'letters@your-site.example'
}
