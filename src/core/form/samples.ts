import type { Field } from './field'

/** Made-up answers to try a form with, by name of control: everyday ones, or as long as they get. */
export function sampleAnswers(fields: readonly Field[], kind: 'everyday' | 'long'): Record<string, string> {
  const long = kind === 'long'
  const answers: Record<string, string> = {}
  for (const field of fields) {
    const { key } = field
    switch (field.kind) {
      case 'email':
        answers[key] = long ? 'wilhelmina.featherstonehaugh-vandenberghe@department-of-night-skies.example' : 'wren@post.example'
        break
      case 'first-name':
        answers[key] = long ? 'Anne-Sophie Maximiliane Theodora' : 'Wren'
        break
      case 'last-name':
        answers[key] = long ? 'Featherstonehaugh-Vandenberghe von und zu Hohenstein' : 'Ashdown'
        break
      case 'full-name':
        answers[key] = long ? 'Anne-Sophie Maximiliane Featherstonehaugh-Vandenberghe' : 'Wren Ashdown'
        break
      case 'phone':
        answers[key] = long ? '+1 (555) 010-0100-0100-01' : '+1 555 0100'
        break
      case 'website':
        answers[key] = long ? 'https://the-long-name-of-a-site.example/with/a/path/that/goes/on/and/on' : 'https://wren.example'
        break
      case 'address':
        Object.assign(answers, {
          [`${key}-street`]: long ? 'Upper Cloudberry Hill Observatory Road 1117, second house behind the quarry' : 'Quarry Road 7',
          [`${key}-postal-code`]: long ? '1234 AB-5678' : '1234',
          [`${key}-city`]: long ? 'Llanfair-by-the-Hill' : 'Hilltown',
          [`${key}-country`]: 'Erewhon',
        })
        break
      case 'birthday':
        Object.assign(answers, { [`${key}-day`]: '12', [`${key}-month`]: long ? '9' : '4', ...(field.withYear && { [`${key}-year`]: '1984' }) })
        break
      case 'date':
        answers[key] = '2026-12-04'
        break
      case 'number':
        answers[key] = String(field.least ?? (long ? 1_000_000_000 : 3))
        break
      case 'line':
        answers[key] = long ? 'A long answer to a short question, with everything that came to mind on the way' : 'A short answer'
        break
      case 'text':
        answers[key] = long ? 'This is what somebody writes who has the time. '.repeat(12) : 'Thank you for the last letter.'
        break
      case 'choose-one':
        answers[key] = field.choices[0]?.key ?? ''
        break
      case 'choose-several':
      case 'topics':
        for (const choice of long ? field.choices : field.choices.slice(0, 1)) answers[`${key}--${choice.key}`] = 'on'
        break
      case 'consent':
        answers[key] = 'on'
        break
      case 'hidden':
        break
    }
  }
  return answers
}
