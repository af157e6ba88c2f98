/** The stations of a form's line, in the order in which a visitor passes them. */
export const stations = ['spot', 'form', 'answer', 'mail', 'list'] as const
export type Station = (typeof stations)[number]

export const stationNames: Record<Station, string> = {
  spot: 'Spot',
  form: 'Form',
  answer: 'Answer',
  mail: 'Mail',
  list: 'List',
}
