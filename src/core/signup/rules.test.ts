import { type Field, type FieldKind, fieldMoved, fieldRemoved, newField, sampleAnswers, fieldKinds } from '#core/form'
import { textsOf } from '#core/texts'
import { answerIn, errorIn, fieldErrors, isAsked, type PostedValues } from '.'

const texts = textsOf('en')
const field = (kind: FieldKind, changes: object = {}): Field => ({ ...newField(kind, texts), ...changes }) as Field
const two = {
  choices: [
    { key: 'a', label: 'Apples' },
    { key: 'b', label: 'Pears' },
  ],
}

describe('what each kind of field takes, and how it is kept', () => {
  test.each([
    { of: field('first-name'), posted: { 'first-name': ' Åda\r\n ' }, kept: 'Åda' },
    { of: field('phone'), posted: { phone: '+1 (555) 010-0100' }, kept: '+1 (555) 010-0100' },
    { of: field('phone'), posted: { phone: 'ring me' }, error: 'invalid' },
    { of: field('website'), posted: { website: 'https://wren.example/a?b' }, kept: 'https://wren.example/a?b' },
    { of: field('website'), posted: { website: 'javascript:alert(1)' }, error: 'invalid' },
    { of: field('date'), posted: { date: '2028-02-29' }, kept: '2028-02-29' },
    { of: field('date'), posted: { date: '2027-02-29' }, error: 'invalid' },
    { of: field('birthday'), posted: { 'birthday-day': '29', 'birthday-month': '2' }, kept: '--02-29' },
    { of: field('birthday'), posted: { 'birthday-day': '30', 'birthday-month': '2' }, error: 'invalid' },
    { of: field('birthday'), posted: { 'birthday-day': '3' }, error: 'invalid' },
    {
      of: field('birthday', { withYear: true }),
      posted: { 'birthday-day': '1', 'birthday-month': '12', 'birthday-year': '1984' },
      kept: '1984-12-01',
    },
    {
      of: field('birthday', { withYear: true }),
      posted: { 'birthday-day': '1', 'birthday-month': '12' },
      error: 'invalid',
    },
    { of: field('number', { least: 1, most: 30 }), posted: { number: '30' }, kept: '30' },
    { of: field('number', { least: 1, most: 30 }), posted: { number: '31' }, error: 'too-large' },
    { of: field('number', { least: 1, most: 30 }), posted: { number: '0' }, error: 'too-small' },
    { of: field('number'), posted: { number: '1,5' }, error: 'invalid' },
    { of: field('number'), posted: { number: '0x1f' }, error: 'invalid' },
    { of: field('line'), posted: { line: 'x'.repeat(201) }, error: 'too-long' },
    { of: field('text'), posted: { text: 'two\r\nlines' }, kept: 'two\nlines' },
    { of: field('text'), posted: { text: 'x'.repeat(5001) }, error: 'too-long' },
    { of: field('choose-one', two), posted: { 'choose-one': 'b' }, kept: 'Pears' },
    { of: field('choose-one', two), posted: { 'choose-one': 'c' }, error: 'invalid' },
    {
      of: field('choose-several', two),
      posted: { 'choose-several--a': 'on', 'choose-several--b': 'on' },
      kept: 'Apples, Pears',
    },
    { of: field('topics', { ...two, required: true }), posted: {}, error: 'missing' },
    { of: field('consent'), posted: {}, error: 'missing' },
    { of: field('consent'), posted: { consent: 'on' }, kept: 'on' },
    {
      of: field('address', { required: true }),
      posted: { 'address-street': 'Quarry Road 7', 'address-city': 'Hilltown' },
      error: 'missing',
    },
    {
      of: field('address'),
      posted: { 'address-street': 'Quarry Road 7', 'address-postal-code': '1234', 'address-city': 'Hilltown' },
      kept: 'Quarry Road 7, 1234, Hilltown',
    },
    { of: field('hidden', { source: 'fixed', value: 'poster' }), posted: { hidden: 'something else' }, kept: 'poster' },
  ] as { of: Field; posted: PostedValues; kept?: string; error?: string }[])(
    '$of.kind, $posted',
    ({ of, posted, kept, error }) => {
      expect(errorIn(of, posted, texts)?.code).toBe(error)
      if (kept !== undefined) expect(answerIn(of, posted)).toBe(kept)
    },
  )

  test('every kind takes the sample answers made for it, everyday and long', () => {
    const all = fieldKinds.map(({ kind }) => field(kind))
    for (const kind of ['everyday', 'long'] as const)
      expect(fieldErrors(all, sampleAnswers(all, kind), texts)).toEqual([])
  })

  test('the owner’s own wording of an error takes the place of ours, in whichever language', () => {
    expect(errorIn(field('first-name', { required: true, error: 'We need a name.' }), {}, textsOf('ja'))?.message).toBe(
      'We need a name.',
    )
    expect(errorIn(field('first-name', { required: true, label: 'Vorname' }), {}, textsOf('de'))?.message).toBe(
      'Bitte „Vorname“ ausfüllen.',
    )
  })
})

describe('fields that depend on another’s answer', () => {
  const topics = field('topics', two)
  const which = field('choose-one', { ...two, showWhen: { field: 'topics', is: ['a'] } })
  const why = field('line', { required: true, showWhen: { field: 'choose-one', is: ['b'] } })
  const fields = [topics, which, why]
  test.each([
    { posted: {}, asked: [true, false, false] },
    { posted: { 'topics--a': 'on' }, asked: [true, true, false] },
    { posted: { 'topics--b': 'on', 'choose-one': 'b' }, asked: [true, false, false] },
    { posted: { 'topics--a': 'on', 'choose-one': 'b' }, asked: [true, true, true] },
  ] as { posted: PostedValues; asked: boolean[] }[])('$posted', ({ posted, asked }) => {
    expect(fields.map((one) => isAsked(one, fields, posted))).toEqual(asked)
    // What is not asked is never missing.
    expect(fieldErrors(fields, posted, texts).map((error) => error.field)).toEqual(asked[2] ? ['line'] : [])
  })

  test('taking off what others depend on asks them of everybody; moving keeps all fields', () => {
    expect(fieldRemoved(fields, 'topics').map((one) => one.showWhen)).toEqual([
      null,
      { field: 'choose-one', is: ['b'] },
    ])
    expect(fieldMoved(fields, 0, 2).map(({ key }) => key)).toEqual(['choose-one', 'line', 'topics'])
  })
})
