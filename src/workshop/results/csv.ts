import Papa from 'papaparse'
import { safeCell } from '#core/export'
import { rateWords, type ResultLine, wilson } from '#core/results'

/** The table as CSV (RFC 4180); what is not known stays empty. */
export function resultsCsv(what: string, lines: readonly { name: string; about: string; line: ResultLine }[]): string {
  const share = (value: number) => value.toFixed(4)
  return `${Papa.unparse({
    fields: [
      what,
      'List',
      'Views',
      'Starts',
      'Set aside',
      'Sign-ups',
      'Confirmed',
      'Already there',
      'Bots',
      'Rate',
      'Rate from',
      'Rate to',
      'In words',
    ],
    data: lines.map(({ name, about, line }) => {
      const interval = line.rate === null ? null : wilson(line.rate)
      return [
        safeCell(name),
        safeCell(about),
        line.views ?? '',
        line.starts ?? '',
        line.setAside,
        line.signUps,
        line.confirmed,
        line.already,
        line.bots,
        line.rate === null ? '' : share(line.rate.count / line.rate.of),
        interval === null ? '' : share(interval.low),
        interval === null ? '' : share(interval.high),
        line.rate === null ? 'views are not known' : rateWords(line.rate),
      ]
    }),
  })}\r\n`
}
