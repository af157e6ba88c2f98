import { type CustomRule, movesBoxes, withinForm } from '#core/look'
import { INSISTENT } from './rule'

/** The owner's own rules, each selector within the form; `form` or `:scope` is the form itself. */
export function customRules(rules: readonly CustomRule[], scope: string): string[] {
  const within = rules.flatMap((rule) => withinForm(rule) ?? [])
  // Boxes that leave their place end at the form's edge, but for the width of a focus outline.
  const holding = within.some(movesBoxes) ? [`${scope}{position:relative;overflow:clip;overflow-clip-margin:6px}`] : []
  return [
    ...holding,
    ...within.map(({ selectors, ...rest }) =>
      ruleText({
        ...rest,
        selectors: selectors.map((selector) =>
          isOfForm(selector) ? selector.replace(FORM, scope) : `${scope} ${selector}`,
        ),
      }),
    ),
  ]
}

/** The same for elements outside the form, on a page that is all the form's own. */
export function customRulesAround(rules: readonly CustomRule[], scope: string): string[] {
  return rules
    .flatMap((rule) => withinForm(rule) ?? [])
    .flatMap(({ selectors, ...rest }) => {
      const around = selectors.filter((selector) => !isOfForm(selector)).map((selector) => `${scope} ${selector}`)
      return around.length === 0 ? [] : [ruleText({ ...rest, selectors: around })]
    })
}

const FORM = /^\s*(form|:scope)(?![\w-])/

function isOfForm(selector: string): boolean {
  return FORM.test(selector)
}

/** Properties that our styles set with `!important` get it in an owner's rule too, else it could not replace ours. */
function declarationText({ property, value }: CustomRule['declarations'][number]): string {
  const hasWeight = property.startsWith('outline') || INSISTENT.test(property)
  return `${property}:${value}${hasWeight && !value.includes('!') ? '!important' : ''}`
}

function ruleText({ media, selectors, declarations }: CustomRule): string {
  const rule = `${selectors.join()}{${declarations.map(declarationText).join(';')}}`
  if (media === null) return rule
  const bounds = [
    media.from !== null && `(min-width:${media.from}px)`,
    media.upTo !== null && `(max-width:${media.upTo}px)`,
  ].filter(Boolean)
  return bounds.length === 0 ? rule : `@media ${bounds.join(' and ')}{${rule}}`
}
