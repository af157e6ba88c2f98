import { lineObstacle, plainLook } from '.'

const line = { ...plainLook, arrangement: 'line' as const }

test.each([
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
])('$case', ({ look, fields, why }) => {
  const obstacle = lineObstacle(look, fields, 'Sign up')
  if (why === null) {
    expect(obstacle).toBeNull()
    return
  }
  expect(obstacle!.why).toMatch(why)
  // One press puts right all of it.
  expect(lineObstacle(obstacle!.mended, fields, 'Sign up')).toBeNull()
})
