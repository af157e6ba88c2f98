import 'fake-indexeddb/auto'
import fc from 'fast-check'
import { effectScope, ref, shallowRef, watch } from 'vue'
import { type Form, type FormContent, startContent } from '#core/form'
import type { FormId, ListId, ThemeId } from '#core/ids'
import { plainLook } from '#core/look'
import { BY_SYNC, database, readDraft, type useLive, writeDraft } from '../data'
import { type Draft, useDraft } from '../form/draft'

const LATE_MS = 4
// A browser under load tells of a write when the next ones are already made: here it does so always, in order.
jest.mock('../data/live', () => {
  const real = jest.requireActual<{ useLive: typeof useLive }>('../data/live')
  return {
    ...real,
    useLive(...query: Parameters<typeof real.useLive>) {
      const late = shallowRef(query[1])
      watch(real.useLive(...query), (news) => setTimeout(() => (late.value = news), LATE_MS), { flush: 'sync' })
      return late
    },
  }
})
// The window's keys are tried end to end.
Object.assign(globalThis, { addEventListener: () => {}, removeEventListener: () => {} })

const FORM = 'letter' as FormId
const night = { id: 'night' as ThemeId, name: 'Night', look: { ...plainLook, shadow: 'soft' as const } }
const first = startContent('Our letter')
const kept: Form = {
  id: FORM,
  name: 'Letter',
  list: 'letters' as ListId,
  theme: null,
  isArchived: false,
  draft: first,
  createdAt: '2026-11-01T20:00:00.000Z',
}

afterAll(() => database.close())

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/** A draft in hand, as a tab has it, read from what the browser keeps; with `use`, until `use` resolves. */
async function withDraft(use: (draft: Draft) => Promise<void>): Promise<void> {
  await Promise.all([database.forms.clear(), database.drafts.clear(), database.themes.clear()])
  await Promise.all([database.forms.add(kept), database.themes.add(night)])
  const scope = effectScope()
  const draft = scope.run(() => useDraft(FORM))!
  try {
    await until(() => draft.content.value !== null)
    await use(draft)
  } finally {
    scope.stop()
    await written()
    await pause(3 * LATE_MS)
  }
}

/** Whatever was on its way into the database is there: writes take their turns. */
const written = () =>
  database.transaction('rw', database.forms, database.drafts, database.themes, () => database.forms.count())

async function until(isSo: () => boolean | Promise<boolean>): Promise<void> {
  const end = Date.now() + 10_000
  while (!(await isSo())) {
    if (Date.now() > end) throw new Error(`Never so: ${isSo}`)
    await pause(1)
  }
}

const headed = (heading: string): FormContent => ({ ...first, words: { ...first.words, heading } })
const inHand = (draft: Draft) => ({ draft: draft.content.value, theme: draft.theme.value })
const inDatabase = async () => {
  const { draft, theme } = (await readDraft('form', FORM))!.body
  return { draft, theme }
}

const acts = fc.array(
  fc.record({
    does: fc.constantFrom(
      'write',
      'write',
      'undo',
      'undo',
      'redo',
      'take theme',
      'leave theme',
      'write elsewhere',
      'pause',
      'pause',
    ),
    text: fc.string({ unit: 'grapheme', maxLength: 12 }),
  }),
  { minLength: 5, maxLength: 30, size: 'max' },
)

test('whatever is written, undone and redone, here or in another tab: what is in hand is kept, and every step can be gone back and forth', async () => {
  await fc.assert(
    fc.asyncProperty(acts, async (all) => {
      await withDraft(async (draft) => {
        // The states there were, as a person would count them, and which of them is in hand.
        let states = [inHand(draft)]
        let at = 0
        // Theirs is a step too; several in a row are one.
        let isTheirs = false
        const next = (state: (typeof states)[number]) => {
          if (JSON.stringify(state) === JSON.stringify(states[at])) return
          states = [...states.slice(0, at + 1), state]
          at++
          isTheirs = false
        }
        for (const [number, act] of all.entries()) {
          const here = states[at]!
          if (act.does === 'write') {
            void draft.change('Rewrite', `place ${number}`, (changed) => (changed.words.heading = act.text))
            next({ ...here, draft: { ...here.draft!, words: { ...here.draft!.words, heading: act.text } } })
          } else if (act.does === 'take theme') {
            void draft.change('Take', `place ${number}`, (changed) => (changed.look = night.look), { theme: night.id })
            next({ draft: { ...here.draft!, look: night.look }, theme: night.id })
          } else if (act.does === 'leave theme') {
            void draft.change('Leave', `place ${number}`, () => {}, { theme: null })
            next({ ...here, theme: null })
          } else if (act.does === 'undo') {
            draft.undo()
            if (at > 0) isTheirs = false
            at = Math.max(0, at - 1)
          } else if (act.does === 'redo') {
            draft.redo()
            if (at < states.length - 1) isTheirs = false
            at = Math.min(states.length - 1, at + 1)
          } else if (act.does === 'pause') {
            // Long enough for some of the database's news, and too short for all of it.
            await pause(act.text.length)
          } else {
            // Other tabs write on what is kept, so what is on its way there comes first.
            await until(async () => JSON.stringify(await inDatabase()) === JSON.stringify(inHand(draft)))
            const theirs = { draft: headed(`${number} ${act.text}`), theme: null }
            await writeDraft('form', FORM, theirs, { by: 'another tab' })
            await until(() => draft.content.value!.words.heading === theirs.draft.words.heading)
            if (isTheirs) states = [...states.slice(0, at), theirs]
            else next(theirs)
            isTheirs = true
          }
          expect(inHand(draft)).toEqual(states[at])
        }
        await until(async () => JSON.stringify(await inDatabase()) === JSON.stringify(inHand(draft)))

        await pause(3 * LATE_MS)
        for (; draft.undoName.value !== null; at--) draft.undo()
        expect([at, inHand(draft)]).toEqual([0, states[0]])
        while (draft.redoName.value !== null) draft.redo()
        expect(inHand(draft)).toEqual(states.at(-1))
      })
    }),
    // Smaller examples would take as long again, each.
    { numRuns: 20, endOnFailure: true },
  )
})

describe('steps', () => {
  test.each([
    [
      'typing on in one place',
      [
        { part: 'heading', at: 0 },
        { part: 'heading', at: 1_400 },
        { part: 'heading', at: 2_800 },
      ],
      1,
    ],
    [
      'coming back to a place after a pause',
      [
        { part: 'heading', at: 0 },
        { part: 'heading', at: 1_500 },
      ],
      2,
    ],
    [
      'going from place to place',
      [
        { part: 'heading', at: 0 },
        { part: 'button', at: 100 },
        { part: 'heading', at: 200 },
      ],
      3,
    ],
  ])('%s', async (_, changes, steps) => {
    await withDraft(async (draft) => {
      const clock = jest.spyOn(Date, 'now')
      for (const [number, { part, at }] of changes.entries()) {
        clock.mockReturnValue(1e12 + at)
        await draft.change(`Rewrite the ${part}`, part, (changed) => (changed.words.heading = `${number}`))
      }
      clock.mockRestore()
      let counted = 0
      for (; draft.undoName.value !== null; counted++) draft.undo()
      expect(counted).toBe(steps)
      expect(draft.content.value).toEqual(first)
    })
  })
})

test('a change that changes nothing is no step, and a new step ends what could be redone', async () => {
  await withDraft(async (draft) => {
    await draft.change('Nothing', 'heading', (changed) => (changed.words.heading = first.words.heading))
    expect(draft.undoName.value).toBeNull()
    await draft.change('One', 'heading', (changed) => (changed.words.heading = 'One'))
    draft.undo()
    expect(draft.redoName.value).toBe('One')
    await draft.change('Two', 'button', (changed) => (changed.words.button = 'Two'))
    expect(draft.redoName.value).toBeNull()
    // A message of the step offers to take back that step and no other.
    const isLast = draft.isStillLast()
    expect(isLast()).toBe(true)
    await draft.change('Three', 'note', (changed) => (changed.words.quoteBy = 'Three'))
    expect(isLast()).toBe(false)
    draft.undo()
    expect(isLast()).toBe(true)
    draft.redo()
    draft.undo()
    expect(draft.content.value!.words).toMatchObject({ heading: first.words.heading, button: 'Two' })
  })
})

test('going to another form leaves its steps behind, and brings nothing of them along', async () => {
  await withDraft(async () => {
    const other: Form = { ...kept, id: 'other' as FormId, draft: headed('Another form') }
    await database.forms.add(other)
    const id = ref(FORM)
    const scope = effectScope()
    const draft = scope.run(() => useDraft(id))!
    await until(() => draft.content.value !== null)
    await draft.change('Rewrite', 'heading', (changed) => (changed.words.heading = 'Here'))
    id.value = other.id
    await until(() => draft.content.value?.words.heading === 'Another form')
    expect(draft.undoName.value).toBeNull()
    draft.undo()
    expect((await readDraft('form', FORM))!.body.draft.words.heading).toBe('Here')
    expect((await readDraft('form', other.id))!.body.draft).toEqual(other.draft)
    scope.stop()
  })
})

test('a draft never wears a theme that was forgotten', async () => {
  await withDraft(async (draft) => {
    await draft.change('Take', 'theme', () => {}, { theme: night.id })
    await draft.change('Leave', 'look', () => {}, { theme: null })
    await database.themes.delete(night.id)
    draft.undo()
    await until(async () => (await readDraft('form', FORM))!.by !== null && draft.redoName.value === 'Leave')
    await draft.change('Rewrite', 'heading', (changed) => (changed.words.heading = 'After'))
    expect((await readDraft('form', FORM))?.body).toMatchObject({ theme: null, draft: { words: { heading: 'After' } } })
  })
})

test('what another browser changed just before is kept through everything typed before its news arrives', async () => {
  await withDraft(async (draft) => {
    await writeDraft('form', FORM, { draft: headed('Theirs'), theme: null }, { by: BY_SYNC })
    // Both are typed on a draft that does not know of it yet.
    const typed = [
      draft.change('Rewrite the button', 'button', (content) => void (content.words.button = 'Mine')),
      draft.change('Rewrite who said it', 'quoteBy', (content) => void (content.words.quoteBy = 'Me')),
    ]
    await Promise.all(typed)
    const words = { heading: 'Theirs', button: 'Mine', quoteBy: 'Me' }
    expect((await readDraft('form', FORM))?.body.draft.words).toMatchObject(words)
    await until(() => draft.content.value?.words.heading === 'Theirs')
    expect(draft.content.value?.words).toMatchObject(words)
  })
})

test('what is typed here and what comes from another browser, however they fall together: neither is lost', async () => {
  const acts = fc.array(fc.tuple(fc.constantFrom('here', 'there', 'pause'), fc.nat(6)), { minLength: 4, maxLength: 24 })
  await fc.assert(
    fc.asyncProperty(acts, async (all) => {
      await withDraft(async (draft) => {
        const wanted = { heading: first.words.heading, button: first.words.button }
        for (const [number, [does, ms]] of all.entries()) {
          if (does === 'here') {
            wanted.heading = `Mine ${number}`
            const heading = wanted.heading
            void draft.change('Rewrite', `place ${number}`, (content) => void (content.words.heading = heading))
          } else if (does === 'there') {
            wanted.button = `Theirs ${number}`
            await database.transaction('rw', database.forms, database.drafts, database.themes, async () => {
              const { draft: content, theme } = (await readDraft('form', FORM))!.body
              const words = { ...content.words, button: wanted.button }
              await writeDraft('form', FORM, { draft: { ...content, words }, theme }, { by: BY_SYNC })
            })
          }
          if (ms > 0) await pause(ms)
        }
        await draft.whenKept()
        await until(async () => JSON.stringify(await inDatabase()) === JSON.stringify(inHand(draft)))
        await pause(3 * LATE_MS)
        expect(inHand(draft)).toEqual(await inDatabase())
        expect(draft.content.value!.words).toMatchObject(wanted)
      })
    }),
    { numRuns: 40, endOnFailure: true },
  )
})
