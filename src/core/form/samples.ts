import type { Field, FieldKind } from './field'

/** Made-up answers where one text answers: an everyday one, and one as long as they get. */
const samples: Partial<Record<FieldKind, [everyday: string, long: string]>> = {
  email: ['wren@post.example', 'wilhelmina.featherstonehaugh-vandenberghe@department-of-night-skies.example'],
  'first-name': ['Wren', 'Anne-Sophie Maximiliane Theodora'],
  'last-name': ['Ashdown', 'Featherstonehaugh-Vandenberghe von und zu Hohenstein'],
  'full-name': ['Wren Ashdown', 'Anne-Sophie Maximiliane Featherstonehaugh-Vandenberghe'],
  phone: ['+1 555 0100', '+1 (555) 010-0100-0100-01'],
  website: ['https://wren.example', 'https://the-long-name-of-a-site.example/with/a/path/that/goes/on/and/on'],
  date: ['2026-12-04', '2026-12-04'],
  line: ['A short answer', 'A long answer to a short question, with everything that came to mind on the way'],
  text: ['Thank you for the last letter.', 'This is what somebody writes who has the time. '.repeat(12)],
  consent: ['on', 'on'],
  message: ['Do you open on Sundays?', 'This is what somebody writes who has the time and a question. '.repeat(12)],
  subject: ['Opening hours', 'A question about opening hours, the way by bus, and whether dogs may come along'],
  'join-box': ['on', 'on'],
}

/** Made-up answers to try a form with, by name of control: everyday ones, or as long as they get. All of them can be taken. */
export function sampleAnswers(fields: readonly Field[], kind: 'everyday' | 'long'): Record<string, string> {
  const long = kind === 'long'
  return Object.fromEntries(
    fields.flatMap((field): [string, string][] => {
      const { key } = field
      const sample = samples[field.kind]
      if (sample !== undefined) return [[key, sample[long ? 1 : 0]]]
      switch (field.kind) {
        case 'address':
          return [
            [
              `${key}-street`,
              long ? 'Upper Cloudberry Hill Observatory Road 1117, second house behind the quarry' : 'Quarry Road 7',
            ],
            [`${key}-postal-code`, long ? '1234 AB-5678' : '1234'],
            [`${key}-city`, long ? 'Llanfair-by-the-Hill' : 'Hilltown'],
            [`${key}-country`, 'Erewhon'],
          ]
        case 'birthday':
          return [
            [`${key}-day`, '12'],
            [`${key}-month`, long ? '9' : '4'],
            ...(field.withYear ? [[`${key}-year`, '1984'] as [string, string]] : []),
          ]
        case 'number':
          return [
            [
              key,
              String(Math.min(field.most ?? Infinity, Math.max(field.least ?? -Infinity, long ? 1_000_000_000 : 3))),
            ],
          ]
        case 'choose-one':
          return [[key, field.choices[0]?.key ?? '']]
        case 'choose-several':
        case 'topics':
          return field.choices.slice(0, long ? undefined : 1).map((choice) => [`${key}--${choice.key}`, 'on'])
        default:
          return []
      }
    }),
  )
}
