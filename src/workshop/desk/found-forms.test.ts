import type { SiteId } from '#core/ids'
import { form } from '../../../tests/tables/samples'
import { type DeskForm, type DeskWish, foundForms, openWish, worstOf } from './found-forms'

const hill = 'hill' as SiteId
const desk = (name: string, changes: Partial<DeskForm> = {}): DeskForm => ({
  form: { ...form, name },
  ...{ about: 'Letters Hill', sites: [hill], signal: 'ready', isPublished: true, isPaused: false, joined: 0 },
  ...changes,
})
const all = [
  desk('Beech', { signal: 'proven', joined: 3 }),
  desk('ash', { signal: 'needs-work', about: 'Night walks', sites: [] }),
  desk('Cedar', { signal: null, isPublished: false, joined: 9 }),
  desk('Dogwood', { signal: 'changed', isPaused: true }),
]

test.each<[string, Partial<DeskWish>, string]>([
  ['all, in the order in which they are told', {}, 'Beech ash Cedar Dogwood'],
  ['by name', { order: 'name' }, 'ash Beech Cedar Dogwood'],
  ['by who joined', { order: 'joined' }, 'Cedar Beech ash Dogwood'],
  [
    'what needs a hand first; what is not worked out yet stands in the middle',
    { order: 'hand' },
    'ash Dogwood Cedar Beech',
  ],
  ['by its own name', { words: 'CED' }, 'Cedar'],
  ['by every word, of form, list or site', { words: ' night  as' }, 'ash'],
  ['none', { words: 'oak' }, ''],
  ['of a site', { site: hill }, 'Beech Cedar Dogwood'],
  ['proven from end to end', { state: 'proven' }, 'Beech'],
  ['not published', { state: 'unpublished' }, 'Cedar'],
  ['paused', { state: 'paused' }, 'Dogwood'],
])('forms are found: %s', (_, wish, names) => {
  expect(
    foundForms(all, { ...openWish, ...wish })
      .map((one) => one.form.name)
      .join(' '),
  ).toBe(names)
})

test.each<[string, Parameters<typeof worstOf>[0], string]>(
  [
    [
      'what is broken',
      [
        ['form', 'proven'],
        ['mail', 'needs-work'],
        ['list', 'changed'],
      ],
      'needs-work',
    ],
    [
      'a list that sends no mail lacks nothing',
      [
        ['spot', 'proven'],
        ['mail', 'empty'],
        ['list', 'proven'],
      ],
      'proven',
    ],
    [
      'a form without a spot does',
      [
        ['spot', 'empty'],
        ['form', 'ready'],
        ['list', 'proven'],
      ],
      'empty',
    ],
  ].map(([name, line, worst]) => [
    name,
    (line as [string, string][]).map(([station, signal]) => ({ station, signal })),
    worst,
  ]) as never,
)('the signal that needs a hand most: %s', (_, line, worst) => {
  expect(worstOf(line)).toBe(worst)
})
