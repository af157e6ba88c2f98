import { getAllCountries, getTimezone } from 'countries-and-timezones'
import { languages } from '#core/texts'

/** Countries that owners choose together. ISO 3166-1 alpha-2. */
export const regionGroups = {
  /** The members of the European Union, from memory (27 in 2026), with Iceland, Liechtenstein and Norway. */
  'The European Economic Area':
    'AT BE BG HR CY CZ DK EE FI FR DE GR HU IE IT LV LT LU MT NL PL PT RO SK SI ES SE IS LI NO',
  'United Kingdom': 'GB',
  Switzerland: 'CH',
  Canada: 'CA',
} as const
export type RegionGroup = keyof typeof regionGroups

export function countriesOf(group: RegionGroup): string[] {
  return regionGroups[group].split(' ')
}

export interface Whereabouts {
  /** As the visitor typed it; empty when not asked. */
  country: string
  /** The browser's time zone, a name of the IANA database; empty when no script told it. */
  zone: string
}

/** The country that somebody signs up from, ISO 3166-1 alpha-2: as told, else by time zone; null for unknown. */
export function countryOf({ country, zone }: Whereabouts): string | null {
  const told = countryNamed(country)
  if (told !== null) return told
  const countries = zone === '' || zone.length > 60 ? [] : (getTimezone(zone)?.countries ?? [])
  // A zone that several countries share says which only where it is named after the first of them.
  return countries[0] ?? null
}

let namesOfCountries: Map<string, string> | null = null

/** A country by its name in any of our languages, or by its code. */
function countryNamed(typed: string): string | null {
  const wanted = plainName(typed.slice(0, 100))
  if (wanted === '') return null
  namesOfCountries ??= allNames()
  return namesOfCountries.get(wanted) ?? null
}

function allNames(): Map<string, string> {
  // Withdrawn codes still have names in `Intl`, those of the countries that took their place among them.
  const codes = Object.keys(getAllCountries())
  const names = new Map<string, string>()
  for (const code of codes) names.set(code.toLowerCase(), code)
  for (const language of languages) {
    const namesThere = new Intl.DisplayNames([language], { type: 'region', fallback: 'none' })
    for (const code of codes) {
      const name = plainName(namesThere.of(code) ?? '')
      if (name !== '' && !names.has(name)) names.set(name, code)
    }
  }
  for (const [name, code] of [
    ['uk', 'GB'],
    ['great britain', 'GB'],
    ['england', 'GB'],
    ['usa', 'US'],
    ['holland', 'NL'],
  ] as const)
    names.set(name, code)
  return names
}

function plainName(text: string): string {
  return text
    .normalize('NFD')
    .replaceAll(/\p{M}/gu, '')
    .toLowerCase()
    .replaceAll(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()
}
