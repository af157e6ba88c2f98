import { type Language, languages, startTextsOf, answerTextsOf, textsOf } from '.'

/** Words by which each language speaks to somebody otherwise than the rest of its texts do (from memory). */
const OTHERWISE: Partial<Record<Language, RegExp>> = {
  de: /(?<!\p{L})(du|dich|dein\p{L}*)(?!\p{L})/iu,
  fr: /(?<!\p{L})(tu|ton|tes|toi)(?!\p{L})/iu,
  es: /(?<!\p{L})(tú|tu|tus|te)(?!\p{L})/iu,
  it: /(?<!\p{L})(lei|suo|sua|risponda|provi|intendeva)(?!\p{L})/iu,
  nl: /(?<!\p{L})(u|uw)(?!\p{L})/iu,
  pl: /(?<!\p{L})(pan|pani|państw\p{L}*)(?!\p{L})/iu,
}

test.each(languages)('all of %s speaks to somebody in one way', (language) => {
  const all = JSON.stringify([textsOf(language), answerTextsOf(language), startTextsOf(language)])
  expect(OTHERWISE[language]?.exec(all)?.[0]).toBeUndefined()
})

/** What stands in a field as an example is read whole in a side column; see the checkup's `overflow`. */
test.each(languages)('the example of %s is short', (language) => {
  expect(startTextsOf(language).example.length).toBeLessThanOrEqual(22)
})
