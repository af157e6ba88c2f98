import { z } from 'zod'
import { type Look, lookSchema, plainLook, lookTextKeys } from '#core/look'
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

/** The path of every token that a look can have, those that can be left out included. */
function pathsIn(schema: z.ZodType, before = ''): string[] {
  if (schema instanceof z.ZodOptional) return pathsIn(schema.unwrap() as z.ZodType, before)
  if (schema instanceof z.ZodRecord) return lookTextKeys.map((key) => `${before}.${key}`)
  if (schema instanceof z.ZodDiscriminatedUnion)
    return [...new Set(schema.options.flatMap((option) => pathsIn(option as z.ZodType, before)))]
  if (!(schema instanceof z.ZodObject)) return [before]
  return Object.entries(schema.shape).flatMap(([key, inner]) =>
    pathsIn(inner as z.ZodType, before === '' ? key : `${before}.${key}`),
  )
}

test('every token of a look is set by one control, or has a place of its own', () => {
  // Headings have the site's own font until another one is chosen.
  const elsewhere = ['type.headingFamily', 'picture.place', 'picture.strength', 'custom.typed', 'custom.rules']
  const all = pathsIn(lookSchema)
  const at = (from: object, path: string) =>
    path.split('.').reduce<unknown>((inner, key) => (inner as Record<string, unknown> | undefined)?.[key], from)
  const changed = new Set<string>()
  for (const [, control] of controls) {
    const look = structuredClone(gradient)
    control.write(
      look,
      valuesOf(control).find((value) => value !== control.read(gradient))!,
    )
    const touched = all.filter((path) => JSON.stringify(at(look, path)) !== JSON.stringify(at(gradient, path)))
    for (const path of touched) changed.add(path)
    expect(touched.length).toBeGreaterThan(0)
  }
  expect([...changed].sort()).toEqual(all.filter((path) => !elsewhere.includes(path)).sort())
})
