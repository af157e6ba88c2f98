import { provide } from 'vue'
import type { Form } from '#core/form'
import { mendingKey } from '../controls'
import { useNotices } from '../notices'
import { columnsBeside } from './columns'
import type { Draft } from './draft'

/** Lets every station below put right by one press what a look at the form found. */
export function provideMending(form: () => Form | null, draft: Draft): void {
  const notices = useNotices()
  provide(mendingKey, ({ mend, code, about }) => {
    const list = form()?.list
    if (mend === undefined || list === undefined) return
    const beside = columnsBeside(list, mend.columns ?? [])
    const part = `mend ${code} ${about ?? ''}`
    void draft.change(mend.name, part, (changed) => Object.assign(changed, mend.apply(changed)), { beside })
    notices.done(`Done: ${mend.name[0]?.toLowerCase()}${mend.name.slice(1)}.`, draft.undo, draft.isStillLast())
  })
}
