import { type FormContent, isBox } from '#core/form'
import type { Finding } from './finding'
import type { Measures } from './measures'
import { partName } from './parts'

/** Sizes, from the look. */
export function lookFindings(content: FormContent): Finding[] {
  const { look, fields } = content
  const hasBoxes = fields.some(
    (field) =>
      isBox(field) ||
      field.kind === 'topics' ||
      field.kind === 'choose-several' ||
      (field.kind === 'choose-one' && field.shownAs === 'buttons'),
  )
  // A box is 1.5 em of the form's text.
  const box = 24 * (look.type.size / 100)
  const findings: (Finding | false)[] = [
    hasBoxes &&
      box < 24 && {
        station: 'form',
        code: 'target-small',
        weight: 'fault',
        message: `Boxes to tick are ${box} px wide; they need 24.`,
        reason: 'Small targets are missed by unsteady hands and thumbs.',
        source: 'WCAG 2.2, 2.5.8 Target Size (Minimum)',
        selector: '.askbox-box',
        mend: {
          name: 'Enlarge the text',
          apply: (changed) => ({ ...changed, look: { ...changed.look, type: { ...changed.look.type, size: 100 } } }),
        },
      },
  ]
  return findings.filter((finding) => finding !== false)
}

/** What the rendering showed: words that do not fit. */
export function fitFindings({ overflows }: Measures): Finding[] {
  return overflows.map(({ selector, width, words }) => ({
    station: 'form',
    code: 'overflow',
    weight: 'fault',
    message: `${selector === '.askbox-button' ? 'The button' : partName(selector)} does not fit at ${width} px: “${words.length > 40 ? `${words.slice(0, 39)}…` : words}”.`,
    ...(selector === '::placeholder'
      ? {
          reason: 'It ends in dots there. A shorter one, or fewer things in one line, can be read whole.',
          selector: '.askbox-input',
        }
      : {
          reason: 'What runs out of its place is cut off, or makes the page scroll sideways.',
          source: 'WCAG 2.2, 1.4.10 Reflow',
          selector,
        }),
    about: `${selector} ${width}`,
  }))
}

/** A landing page is there for its form: what has to be scrolled for is filled in by fewer. */
export function firstScreenFindings({ firstField = [] }: Measures): Finding[] {
  return firstField
    .filter(({ height, end }) => end > height)
    .map(({ width, height, end }) => ({
      station: 'form',
      code: 'below-first-screen',
      weight: 'hint',
      message: `On a screen of ${width} × ${height} the first field ends ${Math.round(end - height)} px below what is seen without scrolling.`,
      reason:
        'Who does not see what to do leaves (common practice, no published source). Shorten what stands above, or put the picture beside or behind.',
      selector: '.askbox-input',
      about: `first screen ${width}`,
    }))
}
