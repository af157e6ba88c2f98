import type { FormId, ListId } from '#core/ids'
import type { Entry } from '#core/journal'
import type { BatchRecord, List } from '#core/list'
import { consentRecord, type Receipt, type ReceiptNames, receiptsOf } from '#core/receipt'
import { spotName } from '#core/spot'
import { useWorkspace } from '../../data'

/** How the receipts of a list's people are read and written. */
export function useReceipts() {
  const workspace = useWorkspace()

  function namesFor(batches: readonly BatchRecord[]): ReceiptNames {
    return {
      form: (id) => workspace.forms.find((one) => one.id === id)?.name ?? 'a form that is gone',
      spot: (id) => {
        const spot = workspace.spots.find((one) => one.id === id)
        return spot === undefined ? 'a place that is gone' : spotName(spot, workspace.sites)
      },
      version: (form, number) =>
        workspace.allVersionsOf(form as FormId).find((one) => one.number === number)?.content ?? null,
      list: (id) => workspace.list(id as ListId)?.name ?? 'a list that is gone',
      batch: (id) => batches.find((one) => one.id === id) ?? null,
    }
  }

  return {
    of: (entries: readonly Entry[], batches: readonly BatchRecord[]): Receipt[] =>
      receiptsOf(entries, namesFor(batches)),
    /** As a consent record that others can read. */
    record: (receipt: Receipt, list: List) => {
      const mail = workspace.mail(list.id)?.published ?? null
      const sender = { name: mail?.senderName ?? '', address: mail?.senderAddress ?? '' }
      return consentRecord(receipt, { list, sender, columns: list.columns })
    },
  }
}
