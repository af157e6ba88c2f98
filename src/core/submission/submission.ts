import type { DefaultTreeAdapterTypes as Html } from 'parse5'
import { attribute, elementsBelow, type FormOnPage } from './controls'
import { encoderFor, multipart, plain, urlencoded } from './encoding'
import { type FormEntry, entryList, type Touches } from './entries'

/** Request body that a browser sends when a form is submitted (HTML, 4.10.21). */
export interface Submission {
  method: 'get' | 'post'
  address: string
  /** Empty for one that is sent with the address. */
  contentType: string
  body: Uint8Array
  entries: FormEntry[]
  /** Whether the browser's own checks are passed over. */
  isUnchecked: boolean
}

export interface PageFacts {
  page: Html.ParentNode
  /** Where it was fetched. */
  address: string
  /** Encoding of the body. */
  encoding: string
}

/**
 * Section 4.10.22.3, "form submission algorithm", as far as the request goes.
 *
 * @param boundary of a multipart body; drawn by the caller
 * @returns null where nothing is sent: a dialog's form, an address that is none, an encoding that cannot be written here
 */
export function submissionOf(
  { form, controls }: FormOnPage,
  submitter: Html.Element | null,
  touches: Touches,
  { page, address, encoding, boundary }: PageFacts & { boundary: string },
): Submission | null {
  const said = (name: string) =>
    (submitter === null ? null : attribute(submitter, `form${name}`)) ?? attribute(form, name) ?? ''
  const method = said('method').toLowerCase()
  if (method === 'dialog') return null
  const action = said('action')
  const encoder = encoderFor(chosenEncoding(form, encoding))
  if (encoder === null) return null
  let target: string
  try {
    target = new URL(action === '' ? address : action.trim(), action === '' ? undefined : baseOf(page, address)).href
  } catch {
    return null
  }
  const entries = entryList(controls, submitter, touches, encoder.name)
  const shared = {
    entries,
    isUnchecked:
      attribute(form, 'novalidate') !== null || (submitter !== null && attribute(submitter, 'formnovalidate') !== null),
  }
  if (method !== 'post') {
    const [bare = ''] = target.split(/[?#]/)
    return {
      ...shared,
      method: 'get',
      address: `${bare}?${urlencoded(entries, encoder.encode)}`,
      contentType: '',
      body: new Uint8Array(),
    }
  }
  switch (said('enctype').toLowerCase()) {
    case 'multipart/form-data':
      return {
        ...shared,
        method,
        address: target,
        contentType: `multipart/form-data; boundary=${boundary}`,
        body: multipart(entries, encoder.encode, boundary),
      }
    case 'text/plain':
      return { ...shared, method, address: target, contentType: 'text/plain', body: plain(entries, encoder.encode) }
    default:
      return {
        ...shared,
        method,
        address: target,
        contentType: 'application/x-www-form-urlencoded',
        body: new TextEncoder().encode(urlencoded(entries, encoder.encode)),
      }
  }
}

/** Section 4.10.22.5, "pick an encoding for the form". */
function chosenEncoding(form: Html.Element, ofPage: string): string {
  const wanted = (attribute(form, 'accept-charset') ?? '').split(/[\t\n\f\r ]+/).filter(Boolean)
  if (wanted.length === 0) return ofPage
  return wanted.find((label) => encoderFor(label) !== null) ?? 'utf-8'
}

/** An address as it is meant on a page; null where it is none. */
export function resolvedOn(address: string, base: string | null): URL | null {
  try {
    return new URL(address, base ?? undefined)
  } catch {
    return null
  }
}

/** Section 2.4.3, "document base URL". */
export function baseOf(page: Html.ParentNode, address: string): string {
  const base = elementsBelow(page).find((one) => one.tagName === 'base' && attribute(one, 'href') !== null)
  try {
    return base === undefined ? address : new URL(attribute(base, 'href')!, address).href
  } catch {
    return address
  }
}
