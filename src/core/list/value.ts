import type { Column } from './list'

/** Why a value is not what its column is for, in words; null where it is, or where nothing is there. It is kept all the same. */
export function oddValue({ kind = 'text', choices = [] }: Column, value: string): string | null {
  const text = value.trim()
  if (text === '') return null
  switch (kind) {
    case 'text':
      return null
    case 'number':
      return /^[+-]?\d+(?:[.,]\d+)*$/.test(text) ? null : `“${text}” is not a number.`
    case 'date':
      return /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text)) ? null : `“${text}” is not a date.`
    case 'choice':
      return choices.length === 0 || choices.includes(text) ? null : `“${text}” is none of the choices.`
    case 'yes-no':
      return /^(?:yes|no)$/i.test(text) ? null : `“${text}” is neither yes nor no.`
    case 'country':
      return /^[A-Za-z]{2}$/.test(text) ? null : `“${text}” is not the two letters of a country.`
    case 'web-address':
      return URL.canParse(text) && /^https?:/i.test(text) ? null : `“${text}” is not a web address.`
  }
}
