import type { FormContent } from '#core/form'
import type { BatchId } from '#core/ids'
import { type BatchRecord } from '#core/list'
import { type Entry, isReceipt } from '#core/journal'
import { plainText } from '#core/text'

/** How somebody agreed to get mail, as it can be shown afterwards. */
export interface Receipt {
  /** Of the journal entry. */
  n: number
  id: string
  /** ISO 8601, UTC. */
  at: string
  way: 'form' | 'hand' | 'file' | 'copied' | 'put-back'
  /** Null where it was erased. */
  email: string | null
  /** What the visitor read, or what the owner stated. */
  words: { what: string; text: string }[]
  /** Boxes that were ticked, in the words beside them. */
  consents: string[]
  /** What was typed, by list column. */
  values: Record<string, string>
  /** Of a form. */
  form: { name: string; version: number; spot: string; page: string; frame?: string; language: string } | null
  /** The beginning of the network address, the rest cut off; empty where it is not known. */
  network: string
  /** The country that decided whether it had to be confirmed; null where that was not asked, empty for unknown. */
  region: string | null
  /** When and how it was confirmed; null where it was not, or had not to be. */
  confirmed: { at: string; how: string } | null
}

/** What entries refer to by ids. */
export interface ReceiptNames {
  form(id: string): string
  spot(id: string): string
  /** See `frameWords`; null where the page was told. */
  frameAt?(spot: string, page: string): string | null
  version(form: string, number: number): FormContent | null
  list(id: string): string
  batch(id: BatchId): BatchRecord | null
}

/**
 * The receipts of one person on one list, oldest first.
 *
 * @param entries all that happened to them there
 */
export function receiptsOf(entries: readonly Entry[], names: ReceiptNames): Receipt[] {
  return entries.filter(isReceipt).map((entry) => receiptOf(entry, entries, names))
}

function receiptOf(entry: Entry, all: readonly Entry[], names: ReceiptNames): Receipt {
  const blank: Receipt = {
    n: entry.n,
    id: 'command' in entry ? entry.command : entry.id,
    at: entry.at,
    way: 'hand',
    email: null,
    words: [],
    consents: [],
    values: {},
    form: null,
    network: '',
    region: null,
    confirmed: null,
  }
  switch (entry.kind) {
    case 'arrival': {
      const { personal } = entry
      const content = names.version(entry.form, entry.version)
      const frame = names.frameAt?.(entry.spot, personal?.page ?? '') ?? null
      const confirmation = all.find((one) => one.kind === 'member-confirmed' && one.n > entry.n)
      return {
        ...blank,
        way: 'form',
        email: personal?.email?.typed ?? null,
        words: content === null ? [] : wordsOf(content),
        consents: (personal?.consents ?? []).map(({ wording }) => wording),
        values: personal?.values ?? {},
        form: {
          name: names.form(entry.form),
          version: entry.version,
          spot: names.spot(entry.spot),
          page: personal?.page ?? '',
          ...(frame !== null && { frame }),
          language: content?.language ?? '',
        },
        network: personal?.network ?? '',
        region: personal?.region ?? null,
        confirmed:
          entry.verdict === 'confirm-first' && confirmation !== undefined
            ? { at: confirmation.at, how: 'Followed the link in the confirmation mail, and pressed the button there.' }
            : null,
      }
    }
    case 'member-added':
      return {
        ...blank,
        email: entry.personal?.email.typed ?? null,
        words: [{ what: 'As the owner stated', text: entry.personal?.consent ?? 'nothing' }],
        values: entry.personal?.values ?? {},
      }
    case 'member-written': {
      const purpose = names.batch(entry.batch)?.purpose
      const told = { ...blank, email: entry.personal?.email.typed ?? null, values: entry.personal?.values ?? {} }
      if (purpose?.kind === 'import')
        return {
          ...told,
          way: 'file',
          words: [
            { what: 'From the file', text: purpose.from },
            { what: 'As the owner stated', text: purpose.consent },
          ],
        }
      if (purpose?.kind === 'copy')
        return {
          ...told,
          way: 'copied',
          words: [{ what: 'Brought over from the list', text: names.list(purpose.from) }],
        }
      return { ...told, way: 'put-back' }
    }
    default:
      return blank
  }
}

/** What stood on the form, in the order in which it is read. */
function wordsOf({ words, fields }: FormContent): Receipt['words'] {
  const texts: [string, string][] = [
    ['Heading', words.heading],
    ['Introduction', plainText(words.introduction)],
    ['Points', plainText(words.points)],
    ['Note before the fields', plainText(words.note)],
    ...fields.flatMap((field): [string, string][] => (field.label === '' ? [] : [['Asked for', field.label]])),
    ['Button', words.button],
    ['Small line below', plainText(words.small)],
  ]
  return texts.filter(([, text]) => text.trim() !== '').map(([what, text]) => ({ what, text }))
}

const whereOf = ({ page, frame }: NonNullable<Receipt['form']>): string =>
  page === '' ? '' : frame === undefined ? `, on ${page}` : `, ${frame[0]!.toLowerCase()}${frame.slice(1)}`

/** A receipt in one text, for a cell of a table. */
export function receiptText({ at, way, form, words, consents, network, confirmed }: Receipt): string {
  const how =
    form === null
      ? words.map(({ what, text }) => `${what}: ${text}`).join('; ') || way
      : `Signed up by “${form.name}”, version ${form.version}, at ${form.spot}${whereOf(form)}`
  const parts = [
    `${at} ${how}`,
    ...consents.map((consent) => `agreed to “${consent}”`),
    ...(network === '' ? [] : [`from ${network}`]),
    ...(confirmed === null ? [] : [`confirmed ${confirmed.at}`]),
  ]
  return parts.join('; ')
}
