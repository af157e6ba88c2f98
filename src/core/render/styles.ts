import type { SpotId } from '#core/ids'
import { isDark, type Look, mix } from '#core/look'

/** The class that keeps one spot's styles apart from every other form on the page. */
export function scopeOf(spot: SpotId): string {
  return `askbox-${spot}`
}

/**
 * The form's style sheet, scoped to its spot. Custom properties first, so that pasted code can be recoloured
 * by hand. Sizes are in em of the page's own text size. Colours are checked `#rrggbb` (see `core/look`), so
 * nothing anybody typed can add a rule.
 */
export function formStyles(spot: SpotId, look: Look): string {
  const { background, text, button, buttonText } = look.colours
  const scope = `.${scopeOf(spot)}`
  const field = isDark(background) ? mix('#000000', background, 0.25) : '#ffffff'
  return [
    `form${scope}{--background:${background};--text:${text};--button:${button};--button-text:${buttonText};--field:${field};--line:${mix(text, field, 0.6)};` +
      'position:relative;box-sizing:border-box;max-width:45em;margin:1.5em 0;padding:1.5em;border-radius:6px;background:var(--background);color:var(--text);font:inherit;line-height:1.5;text-align:start}',
    `${scope} *{box-sizing:border-box}`,
    `${scope} h2.askbox-heading{margin:0 0 .35em;color:inherit;font-size:1.4em;line-height:1.25;text-wrap:balance}`,
    `${scope} p{margin:0;color:inherit;white-space:pre-line;overflow-wrap:anywhere}`,
    `${scope} p.askbox-introduction{margin:0 0 1em}`,
    `${scope} .askbox-row{display:flex;flex-wrap:wrap;align-items:flex-end;gap:.75em}`,
    `${scope} .askbox-field{display:block;flex:1 1 14em;min-width:0;margin:0}`,
    `${scope} .askbox-label{display:block;margin:0 0 .25em;font-size:.9em;font-weight:600}`,
    `${scope} .askbox-optional{font-weight:400}`,
    `${scope} input[type]{width:100%;min-height:2.75em;margin:0;padding:.5em .75em;border:1px solid var(--line);border-radius:4px;background:var(--field);color:var(--text);font:inherit}`,
    `${scope} input::placeholder{color:var(--text);opacity:.72}`,
    `${scope} .askbox-button{flex:0 1 auto;min-height:2.75em;margin:0;padding:.5em 1.25em;border:1px solid transparent;border-radius:4px;background:var(--button);color:var(--button-text);font:inherit;font-weight:600;cursor:pointer}`,
    `${scope} .askbox-button:hover{filter:brightness(1.08)}`,
    `${scope} :focus-visible{outline:3px solid var(--text);outline-offset:2px}`,
    `${scope} p.askbox-small{margin:.75em 0 0;font-size:.85em}`,
    `${scope} .askbox-error{display:block;margin:.25em 0 0;font-size:.9em;font-weight:600}`,
    `${scope} input[aria-invalid]{border:2px solid var(--text)}`,
    `${scope} .askbox-more{position:absolute;left:-9999px;width:1px;height:1px;overflow:hidden}`,
  ].join('\n')
}
