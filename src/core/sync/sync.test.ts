import fc from 'fast-check'
import { anyContent } from '../../../tests/tables/any-form'
import { change, content, form, list, site, spot, version } from '../../../tests/tables/samples'
import { type Body, decideChange, type Kept, type Kind, mergeValues, readBody, reconcile } from '.'

const kept = (kind: Kind, body: Body | null, revision = 5) => ({ kind, key: 'x', revision, body }) as Kept

describe('a three-way merge of one object', () => {
  const renamed = { ...site, name: 'Here' }
  const moved = { ...site, address: 'https://there.example' }
  const wordsHere = { ...form, draft: { ...content, words: { ...content.words, heading: 'Here' } } }
  const lookThere = {
    ...form,
    name: 'There',
    draft: {
      ...content,
      look: { ...content.look, shadow: 'soft' as const },
      words: { ...content.words, button: 'There' },
    },
  }
  test.each([
    ['nobody changed it', 'site', site, site, site, { take: 'here' }],
    ['only here', 'site', site, renamed, site, { take: 'here' }],
    ['only there', 'site', site, site, moved, { take: 'there' }],
    ['both the same', 'site', site, renamed, renamed, { take: 'here' }],
    [
      'both, in different parts',
      'site',
      site,
      renamed,
      moved,
      { take: 'merged', body: { ...site, name: 'Here', address: moved.address } },
    ],
    ['both, in the same part', 'site', site, renamed, { ...site, name: 'There' }, { take: 'neither' }],
    [
      'a draft’s words here, its look and button there',
      'form',
      form,
      wordsHere,
      lookThere,
      {
        take: 'merged',
        body: { ...lookThere, draft: { ...lookThere.draft, words: { ...lookThere.draft.words, heading: 'Here' } } },
      },
    ],
    [
      'fields on both sides',
      'form',
      form,
      { ...form, draft: { ...content, fields: content.fields.slice(0, 1) } },
      { ...form, draft: { ...content, fields: [...content.fields].reverse() } },
      { take: 'neither' },
    ],
    ['taken away there, untouched here', 'spot', spot, spot, null, { take: 'there' }],
    ['taken away there, changed here', 'spot', spot, { ...spot, page: 'https://x.example' }, null, { take: 'neither' }],
    ['taken away here, changed there', 'spot', spot, null, { ...spot, page: 'https://x.example' }, { take: 'neither' }],
    ['new there', 'list', null, null, list, { take: 'there' }],
    [
      'hosts let in on both sides',
      'preferences',
      { videoHosts: ['a'] },
      { videoHosts: ['a', 'b'] },
      { videoHosts: ['a', 'c'] },
      { take: 'merged', body: { videoHosts: ['a', 'b', 'c'] } },
    ],
  ] as [string, Kind, never, never, never, unknown][])('%s', (_, kind, base, here, there, result) => {
    expect(reconcile(kind, base, here, there)).toEqual(result)
  })

  test('property: of any two changes of any form, what is merged is a form, and has every part that only one side changed', () => {
    fc.assert(
      fc.property(anyContent, anyContent, anyContent, (base, here, there) => {
        const result = reconcile('form', { ...form, draft: base }, { ...form, draft: here }, { ...form, draft: there })
        if (result.take !== 'merged') return
        expect(readBody('form', result.body).ok).toBe(true)
        // The same whichever side it is looked at from.
        expect(
          reconcile('form', { ...form, draft: base }, { ...form, draft: there }, { ...form, draft: here }),
        ).toEqual(result)
      }),
      { numRuns: 40 },
    )
  })

  const json = fc.jsonValue({ maxDepth: 3 })
  test('property: merging any values never throws; a side that changed nothing gets the other’s', () => {
    fc.assert(
      fc.property(json, json, json, (base, here, there) => {
        mergeValues(base, here, there)
        expect(mergeValues(base, base, there)).toEqual(there)
        expect(mergeValues(base, here, base)).toEqual(here)
        // With a preference there is always a result.
        expect(mergeValues(base, here, there, 'here')).toBeDefined()
      }),
    )
  })
})

describe('what the receiver says to a change', () => {
  const all = () => true
  const none = () => false
  test.each([
    ['new', change('site', site), null, all, { ok: true, isNews: true }],
    [
      'on the newest revision',
      change('site', { ...site, name: 'Other' }, 5),
      kept('site', site),
      all,
      { ok: true, isNews: true },
    ],
    ['sent again', change('site', site, 3), kept('site', site), all, { ok: true, isNews: false }],
    [
      'on an older revision',
      change('site', { ...site, name: 'Other' }, 4),
      kept('site', site),
      all,
      { ok: false, conflict: { revision: 5 } },
    ],
    [
      'on an older revision of what is gone',
      change('site', site, 4),
      kept('site', null),
      all,
      { ok: false, conflict: { body: null } },
    ],
    ['to what is gone, knowing that', change('site', site, 5), kept('site', null), all, { ok: true, isNews: true }],
    ['known to a receiver that has lost it', change('site', site, 9), null, all, { ok: true, isNews: true }],
    [
      'taking away what was never there',
      { kind: 'site', key: site.id, base: 0, body: null },
      null,
      all,
      { ok: true, isNews: false },
    ],
    [
      'to something that refers to nothing',
      change('spot', spot),
      null,
      none,
      { ok: false, problem: { code: 'broken-reference' } },
    ],
    [
      'that is none',
      { kind: 'site', key: site.id, base: 0, body: { name: 5 } },
      null,
      all,
      { ok: false, problem: { code: 'invalid' } },
    ],
    [
      'under another name',
      { ...change('site', site), key: 'elsewhere' },
      null,
      all,
      { ok: false, problem: { code: 'invalid' } },
    ],
    [
      'to a version',
      change('version', { ...version, list: 'otherlist' as never }, 5),
      kept('version', version),
      all,
      { ok: false, problem: { code: 'version-taken' } },
    ],
  ] as [string, never, never, never, object][])('%s', (_, sent, there, isThere, decision) => {
    expect(decideChange(sent, there, isThere)).toMatchObject(decision)
  })
})
