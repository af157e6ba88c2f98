import type { Field, FieldKind } from '#core/form'

/**
 * The keystroke-level model: time of a task as the sum of its operators. Seconds, for somebody who makes no
 * error. Card, Moran and Newell, "The Keystroke-Level Model for User Performance Time with Interactive
 * Systems", Communications of the ACM 23(7), 1980, figure 1 (and "The Psychology of Human-Computer
 * Interaction", 1983, chapter 8). It tells effort, not how many sign up.
 */
export const operators = {
  /** K, average non-secretary typist (40 words a minute). */
  key: 0.28,
  /** K, typing complex codes. */
  code: 0.75,
  /** P, pointing with a mouse. */
  point: 1.1,
  /** H, hands between keyboard and mouse. */
  home: 0.4,
  /** M, mental preparation. */
  think: 1.35,
  /** A press of the mouse's button: Kieras, "Using the Keystroke-Level Model to Estimate Execution Times", 1993. */
  press: 0.1,
} as const

/**
 * On a phone: a key of a touch keyboard at 36.2 words a minute (Palin and others, "How do People Type on
 * Mobile Devices?", 2019; 60 / (36.2 × 5) s), a tap as pointing without a hand to move. The values for
 * codes and taps are scaled from the desk's, from memory, without a source of their own.
 */
export const phoneOperators = { key: 0.33, code: 0.88, tap: 1.1, think: operators.think } as const

interface Typing {
  /** Characters of ordinary words, and of codes such as numbers, on a desk and on a phone. */
  words: number
  codes: number
  phoneWords?: number
  /** Boxes or menus to press, each after a thought. */
  choices?: number
  /** Controls to move to. */
  controls?: number
}

/** Characters assumed for each kind of field: everyday answers, from memory. A phone's keyboard offers word endings, so long text is less. */
export const assumedTyping: Record<FieldKind, Typing> = {
  email: { words: 22, codes: 0 },
  'first-name': { words: 6, codes: 0 },
  'last-name': { words: 8, codes: 0 },
  'full-name': { words: 14, codes: 0 },
  phone: { words: 0, codes: 12 },
  website: { words: 22, codes: 0 },
  address: { words: 32, codes: 8, controls: 4 },
  birthday: { words: 0, codes: 2, choices: 1, controls: 2 },
  date: { words: 0, codes: 8 },
  number: { words: 0, codes: 2 },
  line: { words: 24, codes: 0, phoneWords: 20 },
  text: { words: 140, codes: 0, phoneWords: 100 },
  'choose-one': { words: 0, codes: 0, choices: 1, controls: 0 },
  'choose-several': { words: 0, codes: 0, choices: 2, controls: 0 },
  topics: { words: 0, codes: 0, choices: 2, controls: 0 },
  consent: { words: 0, codes: 0, choices: 1, controls: 0 },
  hidden: { words: 0, codes: 0, controls: 0 },
}

export interface Effort {
  /** Seconds. */
  desk: number
  phone: number
}

/** Predicted time to answer one field, in seconds. */
export function fieldEffort(field: Field): Effort {
  const { words, codes, phoneWords = words, choices = 0, controls = 1 } = assumedTyping[field.kind]
  // A menu is pointed at twice: to open it and to choose.
  const points = field.kind === 'choose-one' && field.shownAs === 'menu' ? 2 * choices : choices
  const { key, code, point, home, think, press } = operators
  const thoughts = think * (controls + choices)
  return {
    desk: thoughts + controls * (point + press + 2 * home) + words * key + codes * code + points * (point + press),
    phone:
      thoughts +
      controls * phoneOperators.tap +
      phoneWords * phoneOperators.key +
      codes * phoneOperators.code +
      points * phoneOperators.tap,
  }
}

/** Predicted time for the whole form: its fields and the button. */
export function formEffort(fields: readonly Field[]): { total: Effort; each: { field: Field; effort: Effort }[] } {
  const each = fields.filter(({ kind }) => kind !== 'hidden').map((field) => ({ field, effort: fieldEffort(field) }))
  const button: Effort = {
    desk: operators.think + operators.point + operators.press,
    phone: operators.think + phoneOperators.tap,
  }
  const total = each.reduce(
    (sum, { effort }) => ({ desk: sum.desk + effort.desk, phone: sum.phone + effort.phone }),
    button,
  )
  return { total, each }
}
