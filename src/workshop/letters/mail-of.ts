import { computed, type ComputedRef, type Ref } from 'vue'
import type { List } from '#core/list'
import type { MailSettings } from '#core/mail'
import { startMail } from '#core/message'
import { useWorkspace } from '../data'

/** A list's mail as it is sent; while it sends none, as it would begin. Null without a list. */
export function useMailOf(list: Ref<List | null>): ComputedRef<MailSettings | null> {
  const workspace = useWorkspace()
  return computed(() => {
    if (list.value === null) return null
    const mail = workspace.mail(list.value.id)
    return mail?.published ?? mail?.draft ?? startMail(list.value.id, list.value.name).draft
  })
}
