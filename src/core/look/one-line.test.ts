import { lineObstacle, type Look, plainLook } from '.'

const line = { ...plainLook, arrangement: 'line' as const }

test.each<{
  case: string
  look: Look
  fields: number
  why: RegExp | null
  share?: number
  place?: { name: string; width: number }
  helps?: boolean
}>([
  { case: 'stacked is no wish for one line', look: { ...line, arrangement: 'stacked' as const }, fields: 2, why: null },
  { case: 'one field and a button fit', look: line, fields: 1, why: null },
  {
    case: 'the button has a row of its own',
    look: { ...line, button: { ...line.button, width: 'row' as const } },
    fields: 1,
    why: /button has a row of its own/,
  },
  {
    case: 'the form is narrower than three fields need',
    look: { ...line, space: { ...line.space, width: 480 } },
    fields: 3,
    why: /at most 480 px wide, and one line needs about \d+/,
  },
  {
    case: 'no form is as wide as six fields need',
    look: line,
    fields: 6,
    why: /What helps: ask for less\.$/,
    helps: false,
  },
  {
    case: 'a picture beside leaves half of it',
    look: { ...line, space: { ...line.space, width: 560 } },
    fields: 1,
    share: 0.5,
    why: /needs about \d+/,
  },
  {
    case: 'a side column has no room, whatever the look',
    look: line,
    fields: 2,
    place: { name: 'sidebar', width: 360 },
    why: /where it sits \(sidebar\) about 360 px are free.*What helps: ask for less, or a wider place\.$/,
    helps: false,
  },
  { case: 'a text column has', look: line, fields: 1, place: { name: 'inline', width: 680 }, why: null },
])('$case', ({ look, fields, why, share, place, helps = true }) => {
  const room = { fields, button: 'Sign up', ...(share !== undefined && { share }), place }
  const obstacle = lineObstacle(look, room)
  if (why === null) {
    expect(obstacle).toBeNull()
    return
  }
  expect(obstacle!.why).toMatch(why)
  expect(obstacle!.mended !== null).toBe(helps)
  // One press puts right all of it.
  if (obstacle!.mended !== null) expect(lineObstacle(obstacle!.mended, room)).toBeNull()
})
