import { type Look, lookSchema, plainLook } from '#core/look'
import { type LookControl, lookGroups } from './look-controls'

const controls = lookGroups.flatMap((group) =>
  group.controls.map((control) => [`${group.title}: ${control.step}`, control] as const),
)
const gradient: Look = { ...plainLook, ground: { kind: 'gradient', to: '#112233', angle: 10 } }

/** The ends of what a control lets its owner set. */
function valuesOf({ as }: LookControl): (string | number | null)[] {
  if (as.kind === 'range') return [as.least, as.most]
  if (as.kind === 'colour') return ['#0a1b2c', ...(as.without ? [null] : [])]
  return as.options.map(({ value }) => value)
}

test.each(controls)('%s: all that can be set is a look, and is read back', (_, control) => {
  for (const value of valuesOf(control)) {
    const look = structuredClone(gradient)
    control.write(look, value)
    expect(lookSchema.parse(look)).toEqual(look)
    expect(control.read(look)).toBe(value)
  }
})

test.each(controls.filter(([, { as }]) => as.kind === 'range'))(
  '%s: one more or less is no look, so nothing that a look allows is out of reach',
  (_, control) => {
    const { least, most } = control.as as Extract<LookControl['as'], { kind: 'range' }>
    for (const value of [least - 1, most + 1]) {
      const look = structuredClone(gradient)
      control.write(look, value)
      expect(lookSchema.safeParse(look).success).toBe(false)
    }
  },
)

test('every token of a look is set by one control, or has a place of its own', () => {
  const elsewhere = ['picture.place', 'picture.strength', 'custom.typed', 'custom.rules']
  const paths = (value: object, before = ''): string[] =>
    Object.entries(value).flatMap(([key, inner]) =>
      inner !== null && typeof inner === 'object' && !Array.isArray(inner)
        ? paths(inner as object, `${before}${key}.`)
        : [`${before}${key}`],
    )
  const changed = new Set<string>()
  for (const [, control] of controls) {
    const look = structuredClone(gradient)
    control.write(
      look,
      valuesOf(control).find((value) => value !== control.read(gradient))!,
    )
    const at = (from: object, path: string) =>
      path.split('.').reduce<unknown>((inner, key) => (inner as Record<string, unknown>)?.[key], from)
    const isTouched = (path: string) => JSON.stringify(at(look, path)) !== JSON.stringify(at(gradient, path))
    const touched = paths(gradient).filter(isTouched)
    for (const path of touched) changed.add(path)
    expect(touched.length).toBeGreaterThan(0)
  }
  expect([...changed].sort()).toEqual(
    paths(gradient)
      .filter((path) => !elsewhere.includes(path))
      .sort(),
  )
})
