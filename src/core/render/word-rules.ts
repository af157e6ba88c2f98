import { css } from './css'
import type { FormContent } from '#core/form'
import { followsPage, type Look, type LookTextKey, lookTextKeys } from '#core/look'
import { saysNothing } from '#core/text'
import { type Rule, em } from './rule'

/** Heading, texts, quote, video and picture, in the room of a phone; see `roomy-rules.ts`. */
export function wordRules(content: FormContent): Rule[] {
  const { words, look, illustration, video } = content
  const { picture, space, border } = look
  const rules: (Rule | false)[] = [
    words.heading !== '' && [
      '.askbox-heading',
      css`
        margin: 0 0 0.35em;
        font-size: ${look.type.headingSize / 100}em;
        font-weight: ${look.type.headingWeight};
        line-height: 1.2;
        text-wrap: balance;
        white-space: pre-line;
        ${ownHeading(look)};
      `,
    ],
    (words.points.length > 0 ||
      [words.introduction, words.note, words.small, words.after, words.quote]
        .flat()
        .some(({ kind }) => kind !== 'paragraph')) && ['ul,ol', 'padding-inline-start:1.25em;text-align:start'],
    words.points.length > 0 && ['.askbox-points ul', 'list-style:none;padding:0'],
    words.points.length > 0 && [
      '.askbox-points ul li',
      css`
        position: relative;
        margin: 0 0 0.35em;
        padding-inline-start: 1.75em;
      `,
    ],
    words.points.length > 0 && [
      '.askbox-points ul li::before',
      css`
        content: '';
        position: absolute;
        inset-block-start: 0.28em;
        inset-inline-start: 0.35em;
        width: 0.4em;
        height: 0.8em;
        border: solid ${followsPage(look) ? 'currentColor' : 'var(--askbox-button)'};
        border-width: 0 0.17em 0.17em 0;
        transform: rotate(45deg);
      `,
    ],
    words.small.length > 0 && ['.askbox-small', 'margin:.75em 0 0;font-size:.85em'],
    words.after.length > 0 && ['.askbox-after', 'margin:1em 0 0'],
    !saysNothing(words.quote) && [
      '.askbox-quote',
      css`
        margin: 1.25em 0 0;
        padding-inline-start: 1em;
        border-inline-start: 3px solid var(--askbox-button);
      `,
    ],
    !saysNothing(words.quote) && ['blockquote', 'margin:0 0 .25em;font-style:italic'],
    !saysNothing(words.quote) && ['figcaption', 'font-size:.85em'],
    video !== null && ['.askbox-video', 'margin:0 0 1em'],
    video !== null && [
      'iframe',
      css`
        display: block;
        width: 100%;
        height: auto;
        aspect-ratio: ${video.width} / ${video.height};
        border: 0;
        background: #0003;
      `,
    ],
  ]
  if (look.words === 'beside')
    rules.push(
      ['.askbox-beside', `display:flex;flex-wrap:wrap;align-items:center;gap:${em(space.gap)} ${em(space.inside)}`],
      // Of spare room the fields get more than words that are short.
      ['.askbox-told', 'flex:1 1 15em;min-width:0'],
      ['.askbox-asked', 'flex:2 1 20em;min-width:0'],
      ['.askbox-told>:last-child', 'margin-bottom:0'],
    )
  if (illustration !== null) {
    const { picture: shown } = illustration
    const topCorners = border.corner > 0 && `border-radius:${em(border.corner)} ${em(border.corner)} 0 0`
    // `all: revert` removes the aspect ratio that browsers derive from width and height.
    rules.push(['img', `display:block;width:100%;height:auto;aspect-ratio:${shown.width}/${shown.height}`])
    if (picture.place === 'above') {
      rules.push([
        '.askbox-picture',
        css`
          display: block;
          margin: ${em(-space.inside)} ${em(-space.inside)} ${em(space.inside)};
          overflow: hidden;
          ${topCorners};
        `,
      ])
    } else if (picture.place === 'behind') {
      rules.push([
        '.askbox-behind',
        css`
          position: absolute;
          inset: 0;
          z-index: -1;
          overflow: hidden;
          border-radius: inherit;
        `,
      ])
      rules.push(['.askbox-behind img', `height:100%;object-fit:cover;opacity:${picture.strength / 100}`])
    } else {
      // Above, as wide as the form; a column of its own where there is room, see `roomyRules`.
      rules.push(['.askbox-sides', `display:block`])
      rules.push([
        '.askbox-picture',
        css`
          display: block;
          margin: -${em(space.inside)} -${em(space.inside)} ${em(space.inside)};
          overflow: hidden;
          ${topCorners};
        `,
      ])
      rules.push(['.askbox-picture img', 'max-height:22em;object-fit:cover'])
      rules.push(['.askbox-body', 'min-width:0'])
    }
    const focus = illustration?.focus
    if (focus !== undefined)
      rules.push(['.askbox-picture img,.askbox-behind img', `object-position:${focus.x}% ${focus.y}%`])
  }
  return rules.filter((rule) => rule !== false)
}

/** Declarations of the heading alone. */
export function ownHeading({ colours, type }: Look): string {
  return css`
    ${type.headingFamily !== undefined && `font-family:${type.headingFamily}`};
    ${colours.heading !== undefined && `color:${colours.heading}`};
    ${type.headingAlign !== undefined && `text-align:${type.headingAlign}`};
  `
}

/** Sizes and colours that single texts have of their own, where the content has those texts. */
export function ownTextRules({ words, fields, look }: FormContent): Rule[] {
  const isThere = (key: LookTextKey) => (key === 'label' ? fields.length > 0 : words[key].length > 0)
  return lookTextKeys.filter(isThere).flatMap((key): Rule[] => {
    const size = look.type.sizes?.[key]
    const colour = look.colours[key]
    const own = [size !== undefined && `font-size:${size / 100}em`, colour !== undefined && `color:${colour}`]
    return own.some(Boolean) ? [[`.askbox-${key}`, own.filter(Boolean).join(';')]] : []
  })
}

/** For the answer that a script puts in the form's place. */
export function resultRules(look: Look): Rule[] {
  const { result } = look
  const colour = followsPage(look) ? 'currentColor' : 'var(--askbox-button)'
  const around = {
    plain: '',
    framed: `padding:1em;border:2px solid ${colour};border-radius:.5em`,
    barred: `padding-inline-start:1em;border-inline-start:6px solid ${colour}`,
  }[result]
  const mark = result === 'framed' ? '1em' : result === 'barred' ? '1em' : '0em'
  return [
    // The words beside a tick in a ring.
    [
      '.askbox-result',
      css`
        position: relative;
        min-height: 2.6em;
        ${around};
        padding-inline-start: calc(3.5em + ${mark});
        text-align: start;
      `,
    ],
    [
      '.askbox-result::before',
      css`
        content: '';
        position: absolute;
        inset-inline-start: ${mark};
        width: 2.5em;
        height: 2.5em;
        border: 2px solid ${colour};
        border-radius: 50%;
      `,
    ],
    [
      '.askbox-result::after',
      css`
        content: '';
        position: absolute;
        inset-inline-start: calc(${mark} + 0.98em);
        margin-block-start: 0.56em;
        inset-block-start: ${result === 'framed' ? '1em' : '0'};
        width: 0.55em;
        height: 1.1em;
        border: solid ${colour};
        border-width: 0 0.2em 0.2em 0;
        transform: rotate(45deg);
      `,
    ],
    ['.askbox-result:focus-visible', 'outline-offset:6px!important'],
  ]
}
