import {
  fieldColours,
  followsPage,
  type FontKey,
  fontKeys,
  fontName,
  type Look,
  type LookTextKey,
  lookTextKeys,
  usualTextSize,
} from '#core/look'

/** One token of a look and how its owner sets it. */
export interface LookControl {
  name: string
  /** Told to screen readers where the name alone does not say of what. */
  label?: string
  /** What changing it is called among the steps that can be undone. */
  step: string
  /** Changes of the same place shortly after each other are one step. */
  part: string
  as:
    | { kind: 'choice' | 'menu'; options: readonly { value: string; label: string }[] }
    | { kind: 'range'; unit: string; least: number; most: number; by?: number }
    /** `without` is what the colour is while none is chosen; without it, one always is. */
    | { kind: 'colour'; without?: (look: Look) => string }
  read(look: Look): string | number | null
  /** `undefined` leaves a token out that can be. */
  write(look: Look, value: string | number | null | undefined): void
  /** Whether it means anything for this look; always, if left out. */
  applies?(look: Look): boolean
  hint?: string
}

export interface LookGroup {
  key: 'colours' | 'ground' | 'arrangement' | 'type' | 'texts' | 'field' | 'button' | 'border' | 'answer'
  title: string
  controls: readonly LookControl[]
  hint?: string
}

type Grouped = 'colours' | 'type' | 'space' | 'border' | 'field' | 'button'
type Single = 'arrangement' | 'align' | 'words' | 'shadow' | 'result' | 'entrance'
type Gradient = Extract<Look['ground'], { kind: 'gradient' }>

const colour = (
  key: keyof Look['colours'],
  name: string,
  step: string,
  without?: (look: Look) => string,
): LookControl => ({ name, step, ...tokenOf('colours', key), as: { kind: 'colour', without } })
/** A colour that is left out until it is chosen. */
const ownColour = (
  key: 'heading' | LookTextKey | 'fieldText' | 'buttonHover',
  name: string,
  step: string,
  without: (look: Look) => string,
): LookControl => {
  const token = tokenOf('colours', key)
  return {
    name,
    step,
    ...token,
    write: (look, value) => token.write(look, value ?? undefined),
    as: { kind: 'colour', without },
  }
}
const length = <Group extends Grouped>(
  group: Group,
  key: keyof Look[Group],
  name: string,
  step: string,
  [least, most, unit, by]: [number, number, string?, number?],
): LookControl => ({
  name,
  step,
  ...tokenOf(group, key),
  as: { kind: 'range', unit: unit ?? 'px', least, most, by },
})
const choice = (name: string, step: string, token: Token, options: Record<string, string>): LookControl => ({
  name,
  step,
  ...token,
  as: { kind: 'choice', options: optionsOf(options) },
})
const menu = (name: string, step: string, token: Token, options: LookOptions): LookControl => ({
  name,
  step,
  ...token,
  as: { kind: 'menu', options },
})

const textNames: Record<LookTextKey, string> = {
  introduction: 'Introduction',
  points: 'Points',
  note: 'Note',
  label: 'Labels',
  small: 'Small line',
  quote: 'Quote',
  after: 'Text after',
}
const textColour = (look: Look) => look.colours.text

const alignments = { start: 'Start', center: 'Centre', end: 'End' }
const sizes = { small: 'Small', medium: 'Medium', large: 'Large' }
const weights = (...all: string[]): LookOptions => all.map((weight) => ({ value: weight, label: weight }))

/** Every token that the look drawer sets, in its order. */
export const lookGroups: readonly LookGroup[] = [
  {
    key: 'colours',
    title: 'Colours',
    controls: [
      colour('background', 'Background', 'Colour the background'),
      colour('text', 'Text', 'Colour the text'),
      colour('button', 'Button', 'Colour the button'),
      colour('buttonText', 'Button text', 'Colour the button’s words'),
      colour('field', 'Fields', 'Colour the fields', (look) => fieldColours(look).field),
      colour('edge', 'Field edge', 'Colour the edge of the fields', (look) => fieldColours(look).edge),
      ownColour('fieldText', 'Field text', 'Colour what visitors type', textColour),
      ownColour(
        'buttonHover',
        'With the mouse on it',
        'Colour the button under the pointer',
        (look) => look.colours.button,
      ),
    ],
  },
  {
    key: 'ground',
    title: 'Ground',
    hint: 'A picture behind the form is set with the picture, under Words.',
    controls: [
      {
        name: 'The ground is',
        step: 'Change the ground',
        part: 'ground',
        as: { kind: 'choice', options: optionsOf({ colour: 'Colour', gradient: 'Gradient', none: 'None' }) },
        read: (look) => look.ground.kind,
        write: (look, kind) =>
          (look.ground =
            kind === 'gradient' ? { kind, to: look.colours.button, angle: 160 } : { kind: kind as 'colour' | 'none' }),
      },
      {
        name: 'Words are in',
        step: 'Change whose colour the words have',
        part: 'ground text',
        hint: 'Of the page: they read well where it is light or dark, and where it changes.',
        as: { kind: 'choice', options: optionsOf({ own: 'The form’s colour', page: 'The page’s' }) },
        applies: ({ ground }) => ground.kind === 'none',
        read: (look) => (followsPage(look) ? 'page' : 'own'),
        write: (look, whose) => (look.ground = { kind: 'none', ...(whose === 'page' && { text: 'page' as const }) }),
      },
      {
        name: 'Whose styles',
        step: 'Change whose styles the form wears',
        part: 'dress',
        hint: 'The site’s: nothing of this drawer counts but own CSS; the form looks as the site’s own forms do.',
        as: { kind: 'choice', options: optionsOf({ own: 'Its own styles', site: 'The site’s' }) },
        read: (look) => look.dress ?? 'own',
        write: (look, whose) => {
          if (whose === 'site') look.dress = 'site'
          else delete look.dress
        },
      },
      { name: 'Gradient to', step: 'Colour the gradient', ...gradientToken('to'), as: { kind: 'colour' } },
      {
        name: 'Angle',
        step: 'Turn the gradient',
        ...gradientToken('angle'),
        as: { kind: 'range', unit: '°', least: 0, most: 360 },
      },
    ],
  },
  {
    key: 'arrangement',
    title: 'Arrangement and space',
    controls: [
      choice('Fields stand', 'Arrange the fields', single('arrangement'), {
        stacked: 'Under each other',
        line: 'In one line',
      }),
      choice('Width of the button', 'Widen the button', tokenOf('button', 'width'), {
        text: 'As wide as its words',
        row: 'A whole row',
      }),
      length('space', 'width', 'Widest', 'Change the greatest width', [240, 1280, 'px', 10]),
      choice(
        'Words and fields',
        'Arrange words and fields',
        optional(single('words'), () => 'above'),
        {
          above: 'Words above',
          beside: 'Words beside',
        },
      ),
      choice('Text stands at the', 'Align the text', single('align'), alignments),
      choice(
        'The heading at the',
        'Align the heading',
        optional(tokenOf('type', 'headingAlign'), (look) => look.align),
        alignments,
      ),
      length('space', 'inside', 'Inside', 'Change the space inside', [0, 80]),
      length('space', 'gap', 'Between', 'Change the gaps', [2, 40]),
      length('space', 'outside', 'Around', 'Change the space around', [0, 96]),
      {
        ...length('space', 'above', 'Above', 'Change the space above', [0, 96]),
        ...optional(tokenOf('space', 'above'), (look) => look.space.outside),
      },
      {
        ...length('space', 'below', 'Below', 'Change the space below', [0, 96]),
        ...optional(tokenOf('space', 'below'), (look) => look.space.outside),
      },
    ],
  },
  {
    key: 'type',
    title: 'Type',
    controls: [
      menu(
        'Font',
        'Change the font',
        fontToken(),
        fontKeys.map((key) => ({ value: key, label: fontName(key) })),
      ),
      length('type', 'size', 'Size', 'Change the text size', [75, 150, '%']),
      length('type', 'headingSize', 'Heading', 'Change the heading’s size', [100, 300, '%']),
      menu('Weight', 'Change the weight', tokenOf('type', 'weight'), weights('400', '500', '600', '700')),
      menu(
        'Heading’s weight',
        'Change the heading’s weight',
        tokenOf('type', 'headingWeight'),
        weights('400', '500', '600', '700', '800'),
      ),
    ],
  },
  {
    key: 'texts',
    title: 'Single texts',
    hint: 'Sizes in percent of the form’s text. A text without a colour of its own has that of all.',
    controls: [
      ownColour('heading', 'Heading', 'Colour the heading', textColour),
      ...lookTextKeys.flatMap((key): LookControl[] => [
        ownColour(key, textNames[key], `Colour: ${textNames[key].toLowerCase()}`, textColour),
        {
          name: '… its size',
          label: `Size: ${textNames[key].toLowerCase()}`,
          step: `Size: ${textNames[key].toLowerCase()}`,
          part: `size ${key}`,
          as: { kind: 'range', unit: '%', least: 70, most: 200 },
          read: (look) => look.type.sizes?.[key] ?? usualTextSize[key],
          write: (look, value) => {
            look.type.sizes = { ...look.type.sizes, [key]: value as number }
          },
        },
      ]),
    ],
  },
  {
    key: 'field',
    title: 'Fields',
    controls: [
      choice('Fields are', 'Shape the fields', tokenOf('field', 'shape'), { box: 'Boxes', line: 'Lines' }),
      choice('Size of the fields', 'Size the fields', tokenOf('field', 'size'), sizes),
      length('field', 'corner', 'Corners', 'Round the fields', [0, 40]),
    ],
  },
  {
    key: 'button',
    title: 'Button',
    controls: [
      choice('The button is', 'Fill the button', tokenOf('button', 'fill'), { full: 'Filled', outline: 'Outlined' }),
      choice('Size of the button', 'Size the button', tokenOf('button', 'size'), sizes),
      menu(
        'Weight',
        'Change the button’s weight',
        optional(tokenOf('button', 'weight'), () => '600'),
        weights('400', '500', '600', '700', '800'),
      ),
      length('button', 'corner', 'Corners', 'Round the button', [0, 40]),
    ],
  },
  {
    key: 'border',
    title: 'Border and shadow',
    controls: [
      length('border', 'width', 'Border', 'Change the border', [0, 8]),
      { name: 'Border', step: 'Colour the border', ...tokenOf('border', 'colour'), as: { kind: 'colour' } },
      length('border', 'corner', 'Corners', 'Round the form', [0, 40]),
      choice('Shadow', 'Change the shadow', single('shadow'), { none: 'No shadow', soft: 'Soft', lifted: 'Lifted' }),
    ],
  },
  {
    key: 'answer',
    title: 'Answer and entrance',
    controls: [
      choice('The answer is', 'Style the answer', single('result'), {
        plain: 'Plain',
        framed: 'Framed',
        barred: 'With a bar',
      }),
      {
        ...choice('The form appears', 'Change the entrance', single('entrance'), {
          none: 'At once',
          fade: 'Fading in',
          rise: 'Rising',
        }),
        hint: 'Still for people who asked their system for less motion.',
      },
    ],
  },
]

type Token = Pick<LookControl, 'part' | 'read' | 'write' | 'applies'>
type LookOptions = readonly { value: string; label: string }[]

function tokenOf<Group extends Grouped>(group: Group, key: keyof Look[Group]): Token {
  return {
    part: `${group} ${String(key)}`,
    read: (look) => (look[group][key] as string | number | null | undefined) ?? null,
    write: (look, value) => Object.assign(look[group], { [key]: value }),
  }
}

/** Another font is that of headings, too, which the site may have had one of their own for. */
function fontToken(): Token {
  return {
    ...tokenOf('type', 'font'),
    write(look, value) {
      look.type.font = value as FontKey
      delete look.type.headingFamily
    },
  }
}

function single(key: Single): Token {
  return { part: key, read: (look) => look[key] ?? null, write: (look, value) => Object.assign(look, { [key]: value }) }
}

/** A token that goes with the rest while it is left out: choosing what it is anyway leaves it out again. */
function optional(token: Token, usual: (look: Look) => string | number | null): Token {
  return {
    ...token,
    read: (look) => token.read(look) ?? usual(look),
    write: (look, value) => token.write(look, value === usual(look) ? undefined : value),
  }
}

function gradientToken(key: keyof Omit<Gradient, 'kind'>): Token {
  return {
    part: `ground ${key}`,
    applies: ({ ground }) => ground.kind === 'gradient',
    read: ({ ground }) => (ground as Gradient)[key],
    write: ({ ground }, value) => ground.kind === 'gradient' && Object.assign(ground, { [key]: value }),
  }
}

function optionsOf(labels: Record<string, string>): LookOptions {
  return Object.entries(labels).map(([value, label]) => ({ value, label }))
}
