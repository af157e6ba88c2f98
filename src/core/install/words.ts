import type { DefaultTreeAdapterTypes as Html } from 'parse5'
import { linesOf } from './lines'
import type { Mangling } from './manglings'
import type { InstallFinding } from './report'

export const damage: Record<Mangling, [message: string, mend: string]> = {
  'as-text': [
    'The code stands there as text: visitors read it.',
    'Take it out of the words, and paste it into the editor’s place for HTML.',
  ],
  'curly-quotes': [
    'Its straight quotes became curly ones, so browsers do not understand its tags.',
    'Paste it into the editor’s place for HTML, which leaves quotes alone.',
  ],
  paragraphs: [
    'The editor put paragraphs and line breaks into the code.',
    'Paste it into the editor’s place for HTML, which leaves line breaks alone.',
  ],
  'no-style-sheets': [
    'Its style sheet was taken out: it stands there without its looks.',
    'Choose the code with styles in its tags, or a frame.',
  ],
  'no-style-attributes': ['Its style attributes were taken out.', 'Choose the code with a style sheet, or a frame.'],
  'no-attributes': [
    'Names of classes and parts were taken out, so its styles find nothing.',
    'Choose a frame, or a link to its page.',
  ],
  'no-forms': [
    'The form and its fields were taken out; the words are left.',
    'This kind of site takes no forms: choose a script, a frame, or a link to its page.',
  ],
  'no-scripts': ['The script was taken out.', 'Choose the form itself, or a link to its page.'],
  'no-frames': ['The frame was taken out.', 'Choose a link to its page.'],
  'links-only': [
    'Only words and links were left of it.',
    'This kind of site takes links alone: choose a link to its page.',
  ],
}

export function olderFinding(number: number, latest: number, ours: readonly Html.Element[]): InstallFinding[] {
  if (number >= latest) return []
  return [
    {
      code: 'older',
      weight: 'damage',
      message: `It is the code of version ${number}; version ${latest} is published.`,
      mend: 'It works and looks as it did then. Paste the new code in its place.',
      lines: ours[0] ? linesOf(ours[0]) : null,
    },
  ]
}
