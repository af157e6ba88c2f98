/** Autofill field names of the HTML Living Standard, section 4.10.18.7.1 ("Autofilling form controls: the autocomplete attribute"). */
const GENERAL =
  'name,honorific-prefix,given-name,additional-name,family-name,honorific-suffix,nickname,organization-title,username,new-password,current-password,one-time-code,organization,street-address,address-line1,address-line2,address-line3,address-level4,address-level3,address-level2,address-level1,country,country-name,postal-code,cc-name,cc-given-name,cc-additional-name,cc-family-name,cc-number,cc-exp,cc-exp-month,cc-exp-year,cc-csc,cc-type,transaction-currency,transaction-amount,language,bday,bday-day,bday-month,bday-year,sex,url,photo'
const CONTACT =
  'tel,tel-country-code,tel-national,tel-area-code,tel-local,tel-local-prefix,tel-local-suffix,tel-extension,email,impp'
/** May stand before a contact's. */
const CONTACT_KINDS = ['home', 'work', 'mobile', 'fax', 'pager']

export const autofillTokens: readonly string[] = [...GENERAL.split(','), ...CONTACT.split(',')]

/** Whether it is a value that HTML's `autocomplete` attribute takes; sections (`section-…`), shipping and billing are left out. */
export function isAutofillToken(value: string): boolean {
  const [first = '', second, ...rest] = value.split(' ')
  if (rest.length > 0) return false
  if (second === undefined) return first === 'off' || first === 'on' || autofillTokens.includes(first)
  return CONTACT_KINDS.includes(first) && CONTACT.split(',').includes(second)
}
