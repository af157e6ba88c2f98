import { isDisposableEmailDomain } from 'disposable-email-domains-js'

/** Whether a domain gives out mailboxes for an hour, by the list that the package carries. */
export function isThrowAway(domain: string): boolean {
  return isDisposableEmailDomain(domain)
}
