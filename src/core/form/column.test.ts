import fc from 'fast-check'
import { textsOf } from '#core/texts'
import { columnKey, columnsLacking, type FieldKind, fieldKinds, fieldWithColumn, fillsColumn, newField } from '.'

const texts = textsOf('en')
const kinds = fieldKinds.map(({ kind }) => kind).filter((kind) => kind !== 'email')
const KEY = /^[a-z][a-z0-9-]{0,39}$/

test('property: fields asked one after the other each fill a column of their own, which the list then has', () => {
  fc.assert(
    fc.property(fc.array(fc.constantFrom(...kinds), { maxLength: 12 }), (asked: FieldKind[]) => {
      let fields = [newField('email', texts)]
      let columns = [{ key: 'first-name', label: 'First name' }]
      for (const kind of asked) {
        const { field, column } = fieldWithColumn(
          newField(
            kind,
            texts,
            fields.map(({ key }) => key),
          ),
          fields,
          columns,
        )
        fields = [...fields, field]
        if (column !== null) columns = [...columns, column]
      }
      expect(columnsLacking(fields, columns)).toEqual([])
      const filled = fields.filter(fillsColumn).map(({ column }) => column)
      expect(new Set(filled).size).toBe(filled.length)
      for (const key of filled) expect(key).toMatch(KEY)
    }),
  )
})

test('property: whatever a column is called, its key is one, and free', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), fc.array(fc.string()), (label, taken) => {
      const first = columnKey(label, taken)
      const second = columnKey(label, [...taken, first])
      expect([KEY.test(first), KEY.test(second), taken.includes(first), first === second]).toEqual([
        true,
        true,
        false,
        false,
      ])
    }),
  )
})
