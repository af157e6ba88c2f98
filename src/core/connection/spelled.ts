import type { ServiceFile } from './service-file'

const ISO_DATE = /^(\d{4})-(\d\d)-(\d\d)$/

/**
 * Values of fields as a service wants them spelled: dates of ISO 8601 by its pattern, `yes` and `no` by its words, choices by
 * their names there. Anything else stays as it is.
 *
 * @param values by the service's keys
 */
export function spelledValues(
  { spelled }: ServiceFile,
  values: Readonly<Record<string, string>>,
): Record<string, string | number | boolean | null> {
  if (spelled === undefined) return { ...values }
  return Object.fromEntries(
    Object.entries(values).map(([key, value]) => {
      const choices = spelled.choices?.[key]
      if (choices !== undefined && Object.hasOwn(choices, value)) return [key, choices[value]!]
      const [, year, month, day] = ISO_DATE.exec(value) ?? []
      if (year !== undefined && spelled.dates !== undefined)
        return [key, spelled.dates.replace('YYYY', year).replace('MM', month!).replace('DD', day!)]
      if (value === 'yes' && spelled.yes !== undefined) return [key, spelled.yes]
      if (value === 'no' && spelled.no !== undefined) return [key, spelled.no]
      return [key, value]
    }),
  )
}
