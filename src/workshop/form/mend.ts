import { provide } from 'vue'
import type { Form } from '#core/form'
import type { Language } from '#core/texts'
import { lowerFirst, mendingKey } from '../controls'
import { useNotices } from '../notices'
import { columnsBeside } from './columns'
import type { Draft } from './draft'
import type { MailDraft } from './mail/mail-draft'

/** Lets every station below put right by one press what a look at the form found. */
export function provideMending(form: () => Form | null, draft: Draft, mail: MailDraft): void {
  const notices = useNotices()
  async function speak(name: string, language: Language): Promise<void> {
    // The words of all languages weigh, and are seldom needed.
    const { mailInLanguage } = await import('#core/message')
    await mail.change(name, 'language', (changed) => Object.assign(changed, mailInLanguage(changed, language)))
    notices.done(`Done: ${lowerFirst(name)}.`, mail.undo, mail.isStillLast())
  }
  provide(mendingKey, ({ mend, code, about }) => {
    const list = form()?.list
    if (mend === undefined || list === undefined) return
    if (mend.mailLanguage !== undefined) return void speak(mend.name, mend.mailLanguage)
    const beside = columnsBeside(list, mend.columns ?? [])
    const part = `mend ${code} ${about ?? ''}`
    void draft.change(mend.name, part, (changed) => Object.assign(changed, mend.apply(changed)), { beside })
    notices.done(`Done: ${lowerFirst(mend.name)}.`, draft.undo, draft.isStillLast())
  })
}
