import type { Station } from '#core/checkup'

export const stationNames: Record<Station, string> = {
  spot: 'Spot',
  form: 'Form',
  answer: 'Answer',
  mail: 'Mail',
  list: 'List',
}
