import iso from 'i18n-iso-countries'
import { mustConfirm } from '#core/mail'
import { countriesOf, countryOf, regionGroups, type RegionGroup } from '.'

/** All but Kosovo's, which is none of the standard's, and Bouvet Island's, where nobody lives. */
const codes = Object.keys(iso.getAlpha2Codes()).filter((code) => code !== 'XK' && code !== 'BV')
/** Names that two countries share in a language: the Congos, and the two halves of Saint Martin. */
const shared = ['CD CG', 'CG CD', 'SX MF', 'MF SX']
const told = (country: string) => countryOf({ country, zone: '' })

describe('countries, against the tables of ISO 3166-1 that a registry package carries', () => {
  test('every code is the country that it names', () => {
    expect(codes.filter((code) => told(code.toLowerCase()) !== code)).toEqual([])
  })

  test.each(['en', 'de', 'fr', 'es', 'pt', 'it', 'nl', 'pl', 'ja', 'ar'])(
    'names in “%s” lead to their own country or to none, and most to their own',
    (language) => {
      iso.registerLocale(jest.requireActual(`i18n-iso-countries/langs/${language}.json`))
      const names = Object.entries(iso.getNames(language, { select: 'all' })).filter(([code]) => code !== 'XK')
      const found = names.map(
        ([code, name]) =>
          [
            code,
            [name]
              .flat()
              .map(told)
              .find((found) => found !== null) ?? null,
          ] as const,
      )
      expect(
        found.filter(
          ([code, country]) => country !== null && country !== code && !shared.includes(`${code} ${country}`),
        ),
      ).toEqual([])
      expect(found.filter(([, country]) => country === null).length / names.length).toBeLessThan(0.25)
    },
  )

  test('groups are made of countries that there are', () => {
    for (const group of Object.keys(regionGroups) as RegionGroup[])
      expect(countriesOf(group).filter((code) => !codes.includes(code))).toEqual([])
    expect(new Set(countriesOf('The European Economic Area')).size).toBe(30)
  })
})

test('every time zone that this machine knows leads to a country of ISO 3166-1, or to none', () => {
  const zones = Intl.supportedValuesOf('timeZone')
  const found = zones.map((zone) => countryOf({ country: '', zone }))
  expect(found.filter((country) => country !== null && !codes.includes(country))).toEqual([])
  expect(found.filter((country) => country === null).length).toBeLessThan(zones.length * 0.1)
})

test.each([
  { country: '', zone: 'Europe/Vienna', is: 'AT' },
  { country: 'Österreich', zone: 'America/New_York', is: 'AT' },
  { country: 'Erewhon', zone: 'Asia/Tokyo', is: 'JP' },
  { country: 'Erewhon', zone: '', is: null },
  { country: 'UK', zone: '', is: 'GB' },
])('“$country”, “$zone”: $is', ({ country, zone, is }) => expect(countryOf({ country, zone })).toBe(is))

test.each([
  { confirm: 'never', country: 'AT', must: false },
  { confirm: 'always', country: 'US', must: true },
  { confirm: 'regions', country: 'AT', must: true },
  { confirm: 'regions', country: 'US', must: false },
  { confirm: 'regions', country: null, must: true },
] as const)('$confirm, from $country: $must', ({ confirm, country, must }) =>
  expect(mustConfirm({ confirm, regions: ['AT', 'DE'] }, country)).toBe(must),
)
