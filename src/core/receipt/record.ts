import type { Receipt } from './receipt'

/** Who keeps the list, and what for. */
export interface RecordFacts {
  list: { name: string; why: string }
  /** Who sends its mail; empty where nobody does. */
  sender: { name: string; address: string }
  columns: readonly { key: string; label: string }[]
}

/**
 * A receipt as a consent record with the fields of ISO/IEC TS 27560:2023, clause 6. The names of the fields are from
 * memory. What that document has no field for stands under `askbox`.
 */
export function consentRecord(receipt: Receipt, { list, sender, columns }: RecordFacts) {
  const { form, confirmed } = receipt
  const labelOf = (key: string) => columns.find((column) => column.key === key)?.label ?? key
  return {
    schema_version: 'ISO/IEC TS 27560:2023',
    record_id: receipt.id,
    pii_principal_id: receipt.email,
    pii_processing: {
      privacy_notice: receipt.words.map(({ what, text }) => `${what}: ${text}`).join('\n'),
      language: form?.language ?? '',
      purposes: [
        {
          purpose: list.name,
          purpose_description: list.why,
          lawful_basis: 'consent',
          pii_information: [
            { pii_type: 'email address', pii_optional: false },
            ...Object.keys(receipt.values).map((key) => ({ pii_type: labelOf(key), pii_optional: true })),
          ],
          collection_method: collectionMethods[receipt.way],
          withdrawal_method: 'The link in each message, or a word to the sender.',
        },
      ],
    },
    party_identification: [
      { party_role: 'PII controller', party_name: sender.name || list.name, party_contact: sender.address },
    ],
    events: [
      {
        event_time: receipt.at,
        event_type: receipt.way === 'form' ? 'explicit consent' : 'consent stated by the controller',
        event_state: 'given',
      },
      ...(confirmed === null
        ? []
        : [{ event_time: confirmed.at, event_type: 'confirmation by mail', event_state: 'confirmed' }]),
    ],
    askbox: {
      journal_entry: receipt.n,
      consents: receipt.consents,
      values: receipt.values,
      form: form?.name ?? null,
      version: form?.version ?? null,
      spot: form?.spot ?? null,
      page: form?.page ?? null,
      network: receipt.network,
      region: receipt.region,
    },
  }
}

const collectionMethods: Record<Receipt['way'], string> = {
  form: 'web form',
  hand: 'added by hand',
  file: 'imported from a file',
  copied: 'brought over from another list',
  'put-back': 'put back to what it was',
}
