import { computed, shallowRef, toValue, watch, type ComputedRef, type MaybeRefOrGetter } from 'vue'
import { type FormContent, sameValue } from '#core/form'
import type { List } from '#core/list'
import { type Mail, type MailSettings } from '#core/mail'
import { startMail } from '#core/message'
import type { Site } from '#core/site'
import { siteHost } from '#core/site'
import { useWorkspace } from '../../data'

/** A list's mail in its owner's hands: every change is kept at once and can be undone. */
export interface MailDraft {
  settings: ComputedRef<MailSettings | null>
  published: ComputedRef<MailSettings | null>
  /** Whether what is written is what is sent. */
  isPublished: ComputedRef<boolean>
  change(name: string, part: string, work: (settings: MailSettings) => void): void
  undoName: ComputedRef<string | null>
  redoName: ComputedRef<string | null>
  undo(): void
  redo(): void
}

interface Step {
  name: string
  part: string
  before: MailSettings | null
  after: MailSettings
  at: number
}

/** Changes of one part that follow each other so closely are one step: a sentence, not its letters. */
const TOGETHER_MS = 1_000

/**
 * @param from what a list that has no mail yet starts from: what its form and its site already say
 */
export function useMailDraft(
  list: MaybeRefOrGetter<List | null>,
  from: () => { content: FormContent | null; site: Site | null },
): MailDraft {
  const workspace = useWorkspace()
  const kept = computed((): Mail | null => {
    const of = toValue(list)
    return of === null ? null : workspace.mail(of.id)
  })
  const inHand = shallowRef<MailSettings | null>(null)
  const done = shallowRef<Step[]>([])
  const undone = shallowRef<Step[]>([])
  watch(
    () => toValue(list)?.id,
    () => {
      done.value = []
      undone.value = []
      inHand.value = null
    },
  )
  // What another browser changed, or what was just written here.
  watch(
    () => kept.value?.draft,
    (draft) => {
      if (draft !== undefined && !sameValue(draft, inHand.value)) inHand.value = draft
    },
    { immediate: true },
  )
  const settings = computed(() => {
    const of = toValue(list)
    if (of === null) return null
    return inHand.value ?? kept.value?.draft ?? startFrom(of, from())
  })

  function write(next: MailSettings | null): void {
    const of = toValue(list)
    if (of === null || next === null) return
    inHand.value = next
    void workspace.keepMail(
      JSON.parse(JSON.stringify({ list: of.id, draft: next, published: kept.value?.published ?? null })) as Mail,
    )
  }

  return {
    settings,
    published: computed(() => kept.value?.published ?? null),
    isPublished: computed(() => kept.value === null || sameValue(kept.value.draft, kept.value.published)),
    change(name, part, work) {
      const before = settings.value
      if (before === null) return
      const after = JSON.parse(JSON.stringify(before)) as MailSettings
      work(after)
      if (sameValue(before, after)) return
      const last = done.value.at(-1)
      const now = Date.now()
      const isSame = last !== undefined && last.part === part && now - last.at < TOGETHER_MS
      done.value = isSame
        ? [...done.value.slice(0, -1), { ...last, after, at: now }]
        : [...done.value.slice(-99), { name, part, before, after, at: now }]
      undone.value = []
      write(after)
    },
    undoName: computed(() => done.value.at(-1)?.name ?? null),
    redoName: computed(() => undone.value.at(-1)?.name ?? null),
    undo() {
      const step = done.value.at(-1)
      if (step === undefined) return
      done.value = done.value.slice(0, -1)
      undone.value = [...undone.value, step]
      write(step.before)
    },
    redo() {
      const step = undone.value.at(-1)
      if (step === undefined) return
      undone.value = undone.value.slice(0, -1)
      done.value = [...done.value, step]
      write(step.after)
    },
  }
}

function startFrom(list: List, { content, site }: { content: FormContent | null; site: Site | null }): MailSettings {
  const look = content?.look.colours
  const colours =
    look === undefined
      ? undefined
      : { ground: look.background, text: look.text, button: look.button, buttonText: look.buttonText }
  return { ...startMail(list.id, list.name, content?.language, colours).draft, senderName: site?.name ?? list.name }
}

/** An address that a site of this name might send from. */
export function likelySender(site: Site | null): string {
  const host = site === null ? '' : siteHost(site.address).replace(/^www\./, '')
  return /^[a-z0-9-]+(\.[a-z0-9-]+)+$/i.test(host) ? `letters@${host}` : 'letters@your-site.example'
}
