import type { FormContent } from '#core/form'
import { fontStack } from '#core/look'
import { css } from './css'
import { customRulesAround } from './custom-rules'
import { landingGround } from './field-rules'
import { fontFace } from './font-face'
import type { PlacedForm } from './placed'
import { ownHeading, ownTextRules } from './word-rules'

/** How a landing page looks around its form. */
export function landingStyles({ content, receiver }: PlacedForm, address: string): string {
  const { look, video } = content
  const { background, text, button } = look.colours
  const ground =
    look.ground.kind === 'gradient'
      ? `linear-gradient(${look.ground.angle}deg,${background},${look.ground.to})`
      : background
  const font = look.type.font === 'site' ? 'system-ui,sans-serif' : fontStack(look.type.font)
  const shownAddress = JSON.stringify(address).replaceAll('<', '\\3c ')
  // Over a picture, fields need a ground of their own.
  const isFramed =
    look.shadow !== 'none' ||
    look.border.width > 0 ||
    (content.illustration !== null && look.picture.place === 'behind')
  const page = css`
    * {
      box-sizing: border-box;
    }
    body {
      --button: ${button};
      --ground: ${background};
      margin: 0;
      background: ${background};
      color: ${text};
      font: ${look.type.weight} clamp(1rem, 0.94rem + 0.25vw, 1.15rem)/1.6 ${font};
      overflow-wrap: anywhere;
    }
    section {
      padding: clamp(2rem, 5vw, 4.5rem) clamp(1rem, 5vw, 4rem);
    }
    /* Everything begins at the top: what is centred moves while the page arrives. */
    .first {
      position: relative;
      isolation: isolate;
      display: grid;
      gap: 1.5rem;
      align-content: start;
      margin: 0 auto;
      text-align: ${look.align};
    }
    body {
      background: ${ground};
    }
    .first > *,
    .inner {
      width: 100%;
      max-width: 38rem;
      margin-inline: auto;
      min-width: 0;
    }
    .from {
      display: flex;
      gap: 0.6em;
      align-items: center;
      margin: 0 0 1.5rem;
      justify-content: ${look.align};
      font-size: 0.9em;
      font-weight: 600;
    }
    /* Without a picture, words and form share a ground of their own: in two columns where there is room. */
    .alone,
    .picture-behind {
      padding-block: clamp(2.5rem, 9vh, 7rem);
    }
    .alone {
      border-block-start: 0.375rem solid var(--button);
      background: ${landingGround(look.colours)};
    }
    /* With a picture at the side: two columns, the picture in one from edge to edge, words above form in the other. On phones one column, in source order. */
    .first > .askbox-picture {
      max-width: none;
    }
    .first > .askbox-picture img {
      display: block;
      width: 100%;
      object-fit: cover;
    }
    .picture-start,
    .picture-end {
      padding: 0 0 clamp(2rem, 5vw, 4.5rem);
    }
    .picture-end {
      padding-block-start: clamp(2rem, 5vw, 4.5rem);
      padding-block-end: 0;
    }
    .picture-start > .opening,
    .picture-start > .asking,
    .picture-end > .opening,
    .picture-end > .asking {
      padding-inline: clamp(1rem, 5vw, 4rem);
      max-width: calc(38rem + 2 * clamp(1rem, 5vw, 4rem));
    }
    .first > .askbox-picture img {
      max-height: 60vh;
    }
    @media (min-width: 62rem) {
      /* Where words and form have a column each, what stands below begins where the words do. */
      .alone ~ section > .inner,
      .picture-start ~ section > .inner,
      .picture-end ~ section > .inner {
        max-width: 76rem;
      }
      .video > .inner > * {
        max-width: 66rem;
      }
      .story > .inner > *,
      .quote > .inner > * {
        max-width: 38rem;
      }
      .alone {
        grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
        gap: 3rem;
        max-width: none;
        padding-inline: max(clamp(1rem, 5vw, 4rem), calc((100% - 76rem) / 2));
      }
      /* The form is what the page is for: a sheet as high as the words beside it. */
      .alone > .asking {
        display: grid;
        align-content: center;
        padding: clamp(1.5rem, 2.5vw, 2.5rem);
        border: 1px solid color-mix(in srgb, currentColor 14%, transparent);
        border-radius: ${Math.min(12, look.border.corner)}px;
        background: var(--ground);
      }
      .picture-start,
      .picture-end {
        grid-template: auto auto 1fr / minmax(0, 1fr) minmax(0, 1fr);
        gap: 1.5rem 0;
        padding: 0;
      }
      .picture-start > .askbox-picture,
      .picture-end > .askbox-picture {
        grid-row: 1/-1;
        position: relative;
        min-height: min(84vh, 46rem);
      }
      .first > .askbox-picture img {
        position: absolute;
        inset: 0;
        height: 100%;
        max-height: none;
      }
      .picture-start > .askbox-picture {
        grid-column: 1;
      }
      .picture-end > .askbox-picture {
        grid-column: 2;
      }
      .picture-start > .opening,
      .picture-start > .asking {
        grid-column: 2;
        margin-inline: 0 auto;
      }
      /* Half as wide as the page, it begins where a column of 76rem in the page's middle does. */
      .picture-end > .opening,
      .picture-end > .asking {
        grid-column: 1;
        max-width: none;
        margin-inline: 0;
        padding-inline-start: max(clamp(1rem, 5vw, 4rem), calc(100% - 38rem));
      }
      .picture-start > .opening,
      .picture-end > .opening {
        grid-row: 1;
        padding-block-start: clamp(2rem, 7vh, 7rem);
      }
      .picture-start > .asking,
      .picture-end > .asking {
        grid-row: 2;
        padding-block-end: clamp(2.5rem, 9vh, 6rem);
      }
    }
    h1 {
      margin: 0 0 0.4em;
      font-size: clamp(1.9rem, 1.2rem + 3vw, ${(look.type.headingSize / 100) * 1.35}rem);
      font-weight: ${look.type.headingWeight};
      line-height: 1.08;
      letter-spacing: -0.012em;
      text-wrap: balance;
      ${ownHeading(look)};
    }
    p {
      margin: 0 0 1em;
      text-wrap: pretty;
    }
    .opening .askbox-introduction {
      font-size: 1.15em;
    }
    .opening > :last-child,
    .opening > :last-child > :last-child {
      margin-bottom: 0;
    }
    .opening .askbox-picture img {
      display: block;
      width: 100%;
      height: auto;
      margin-bottom: 1.5rem;
      border-radius: 8px;
    }
    .askbox-behind {
      position: absolute;
      inset: 0;
      z-index: -1;
      max-width: none !important;
      overflow: hidden;
    }
    .askbox-behind img {
      display: block;
      width: 100%;
      height: 100%;
      object-fit: cover;
      opacity: ${look.picture.strength / 100};
    }
    .points,
    .video {
      border-block: 1px solid color-mix(in srgb, currentColor 18%, transparent);
    }
    .points + .video {
      border-top: 0;
    }
    .points ul,
    .points ol {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(min(100%, 13rem), 1fr));
      gap: 1rem 2rem;
      max-width: none;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    .points li {
      padding-top: 0.75rem;
      border-top: 3px solid var(--button);
      font-weight: 600;
    }
    ${video !== null && videoStyles(video)}
    .quote figure {
      margin: 0;
    }
    .quote blockquote {
      margin: 0 0 0.5em;
      font-size: clamp(1.25rem, 1rem + 1.4vw, 1.9rem);
      line-height: 1.35;
      text-wrap: balance;
    }
    .quote p {
      margin: 0;
    }
    a {
      color: inherit;
    }
    :focus-visible {
      outline: 3px solid;
      outline-offset: 2px;
    }
    /* The form's card lines up with the words, unless it has a border or a background of its own. */
    .asking .askbox-card:not(#a#b) {
      max-width: none !important;
      margin: 0 !important;
      ${!isFramed && 'padding:0!important;background:none!important'};
    }
    ${ownTextRules(content)
      .map(([selector, declarations]) => `main:not(#a) ${selector}{${declarations}}`)
      .join('')}
    footer {
      display: flex;
      flex-wrap: wrap;
      justify-content: ${look.align};
      gap: 0.25rem 1.5rem;
      padding: 1.5rem max(clamp(1rem, 5vw, 4rem), calc((100% - 38rem) / 2)) 2rem;
      font-size: 0.9em;
    }
    @media (min-width: 62rem) {
      main:has(> .alone, > .picture-start, > .picture-end) + footer {
        padding-inline: max(clamp(1rem, 5vw, 4rem), calc((100% - 76rem) / 2));
      }
    }
    @media (max-width: 480px) {
      section,
      footer {
        padding-inline: 1rem;
      }
      .picture-start > .opening,
      .picture-start > .asking,
      .picture-end > .opening,
      .picture-end > .asking {
        padding-inline: 1rem;
      }
    }
    /* On paper: the words, whole and black, and where the form is filled in. */
    @media print {
      body {
        background: #fff;
        color: #000;
      }
      .first {
        min-height: 0;
      }
      .asking,
      .video,
      .askbox-behind {
        display: none;
      }
      section {
        padding: 1em 0;
        break-inside: avoid;
      }
      main::after {
        content: ${shownAddress};
        font-weight: 600;
      }
    }
  `
  return [
    look.type.font === 'shipped' && fontFace(receiver, 'optional'),
    page,
    ...customRulesAround(look.custom.rules, 'main:not(#a#b)'),
  ]
    .filter(Boolean)
    .join('\n')
}

function videoStyles({ width, height }: NonNullable<FormContent['video']>): string {
  return css`
    .video iframe {
      display: block;
      width: 100%;
      height: auto;
      aspect-ratio: ${width} / ${height};
      border: 0;
      background: #0003;
    }
  `
}
