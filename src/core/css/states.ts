import type { CustomRule } from '#core/look'

/** Pseudo-classes of interaction: `:hover`, `:focus`, `:active`. */
export const states = ['hover', 'focus'] as const
export type State = (typeof states)[number]

/** The pseudo-classes that hold in each. */
const holding: Record<State, RegExp> = {
  hover: /:hover(?![\w-])/g,
  focus: /:focus(-visible|-within)?(?![\w-])/g,
}

/** Always true, and of the same weight as a pseudo-class, so that a rule keeps its rank among the others. */
const ALWAYS = ':not(._)'

/** The states that an owner's own CSS says something about. */
export function statesIn(rules: readonly CustomRule[]): State[] {
  return states.filter((state) =>
    rules.some(({ selectors }) => selectors.some((selector) => new RegExp(`:${state}(?![\\w])`).test(selector))),
  )
}

/** The rules as they would be if everything were in this state. */
export function rulesHeld(rules: readonly CustomRule[], state: State): CustomRule[] {
  return rules.map((rule) => ({
    ...rule,
    selectors: rule.selectors.map((selector) => selector.replace(holding[state], ALWAYS)),
  }))
}
