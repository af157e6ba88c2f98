import type { CommandId, FormId, JournalId, MemberId } from '#core/ids'
import type { Command, Entry } from '#core/journal'
import type { SignUp } from '#core/signup'
import { content, list, published, site, spot, version } from './tables/samples'
import { RETRY_WINDOW_MS, type Store } from '../src/receiver/store/store'

/** What the suite needs to know of an engine. `open` on a place that was open before finds what was stored. */
export interface Engine {
  open(place: string, now: () => number): Promise<Store>
  newPlace(): string
}

/** Every engine behind the store's door has to pass this. */
export function storeSuite(name: string, engine: Engine): void {
  describe(`store on ${name}`, () => {
    let place: string
    let time: number
    let store: Store
    beforeEach(async () => {
      place = engine.newPlace()
      time = Date.parse('2026-03-01T12:00:00.000Z')
      store = await engine.open(place, () => time)
      await store.publish(published)
    })
    afterEach(() => store.close())

    const signUp = (address: string, more: Partial<SignUp> = {}): SignUp => ({
      spot,
      version,
      isBot: false,
      email: { typed: address, compared: address.toLowerCase() },
      values: {},
      tags: [],
      consents: [],
      page: '',
      ...more,
    })
    const reopen = async () => {
      await store.close()
      store = await engine.open(place, () => time)
    }
    const entries = () => store.entriesAfter(0, 1000)

    test('a sign-up, the same person again, a bot: three arrivals, one member, in one order', async () => {
      expect(await store.signUp(signUp('Ada@m.example'), 'a')).toEqual({ verdict: 'joined', repeated: false })
      expect(await store.signUp(signUp('ada@M.example'), 'b')).toEqual({ verdict: 'already-on-list', repeated: false })
      expect(await store.signUp(signUp('bot@m.example', { isBot: true }), 'c')).toEqual({ verdict: 'bot', repeated: false })
      const [first, second, third] = (await entries()) as (Entry & { kind: 'arrival' })[]
      expect([first!.n, second!.n, third!.n]).toEqual([1, 2, 3])
      expect(second!.member).toBe(first!.member)
      expect(third!.member).toBeNull()
    })

    test('a retry within 30 s repeats the first answer and stores nothing; later it is what it is', async () => {
      await store.signUp(signUp('ada@m.example'), 'same')
      time += RETRY_WINDOW_MS
      expect(await store.signUp(signUp('ada@m.example'), 'same')).toEqual({ verdict: 'joined', repeated: true })
      time += 1
      expect(await store.signUp(signUp('ada@m.example'), 'same')).toEqual({ verdict: 'already-on-list', repeated: false })
      expect(await entries()).toHaveLength(2)
    })

    test('fifty at once with one address make one member, whether retries or not', async () => {
      const results = await Promise.all(Array.from({ length: 50 }, (_, at) => store.signUp(signUp('ada@m.example'), `key${at % 25}`)))
      expect(results.filter(({ repeated, verdict }) => !repeated && verdict === 'joined')).toHaveLength(1)
      expect(results.filter(({ repeated }) => repeated)).toHaveLength(25)
      const members = new Set((await entries()).map((entry) => entry.kind === 'arrival' && entry.member))
      expect(members.size).toBe(1)
    })

    test('everything is there after closing and opening again', async () => {
      await store.signUp(signUp('ada@m.example', { values: { 'first-name': 'Åda “5” 👩‍🚀' } }), 'a')
      const before = { journal: store.journalId, entries: await entries(), published: store.published().all() }
      await reopen()
      expect({ journal: store.journalId, entries: await entries(), published: store.published().all() }).toEqual(before)
      expect(await store.signUp(signUp('ada@m.example'), 'b')).toMatchObject({ verdict: 'already-on-list' })
    })

    test('a command is carried out once, however often it is sent, and its first outcome is repeated', async () => {
      const add: Command = { id: 'command1' as CommandId, kind: 'add-member', list: list.id, member: 'member1' as MemberId, email: 'ada@m.example', values: {} }
      const [first] = await store.carryOut([add])
      const remove: Command = { id: 'command2' as CommandId, kind: 'remove-member', list: list.id, member: 'member1' as MemberId, revision: 1 }
      const [second, refused] = await store.carryOut([remove, { ...remove, id: 'command3' as CommandId }])
      expect([first, second, refused]).toMatchObject([{ ok: true, n: 1 }, { ok: true, n: 2 }, { ok: false, problem: { code: 'member-changed' } }])
      await reopen()
      expect(await store.carryOut([add, remove])).toEqual([first, second])
      expect(await entries()).toHaveLength(2)
    })

    test('published versions never change; broken references are refused; nothing of a refused publishing stays', async () => {
      const reworded = { ...version, content: { ...content, words: { ...content.words, heading: 'Other' } } }
      expect(await store.publish({ ...published, versions: [reworded], sites: [{ ...site, name: 'Renamed' }] })).toMatchObject({ ok: false, code: 'version-taken' })
      expect(store.published().site(site.id)?.name).toBe(site.name)
      expect(await store.publish({ ...published, spots: [{ ...spot, form: 'nowhere' as FormId }] })).toMatchObject({ ok: false, code: 'broken-reference' })
      expect(await store.publish({ ...published, versions: [{ ...reworded, number: 2 }] })).toEqual({ ok: true })
      expect([store.published().latestVersion(version.form)?.number, store.published().version(version.form, 1)?.content]).toEqual([2, content])
    })

    test('a journal can be refilled in pieces, but not with gaps and not over another history', async () => {
      for (const address of ['a@m.example', 'b@m.example', 'c@m.example']) await store.signUp(signUp(address), address)
      const [journal, copy] = [store.journalId, await entries()]
      const other = await engine.open(engine.newPlace(), () => time)
      try {
        expect(await other.refill(journal, copy.slice(1))).toMatchObject({ ok: false, code: 'gap' })
        expect(await other.refill(journal, copy.slice(0, 2))).toEqual({ ok: true, latest: 2 })
        expect(await other.refill(journal, copy.slice(2))).toEqual({ ok: true, latest: 3 })
        expect([other.journalId, await other.entriesAfter(0, 10)]).toEqual([journal, copy])
        await other.publish(published)
        expect(await other.signUp(signUp('A@m.example', { email: { typed: 'A@m.example', compared: 'a@m.example' } }), 'x')).toMatchObject({ verdict: 'already-on-list' })
        expect(await other.refill('anotherjournal' as JournalId, [])).toMatchObject({ ok: false, code: 'not-empty' })
      } finally {
        await other.close()
      }
    })

    test('what cannot be stored whole is refused, and the neighbours in the same commit are kept', async () => {
      const results = await Promise.allSettled([
        store.signUp(signUp('a@m.example'), 'a'),
        store.signUp(signUp('nul\0@m.example'), 'b'),
        store.signUp(signUp('c@m.example'), 'c'),
      ])
      expect(results.map(({ status }) => status)).toEqual(['fulfilled', 'rejected', 'fulfilled'])
      expect((await entries()).map(({ n }) => n)).toEqual([1, 2])
      expect(store.latest()).toBe(2)
    })

    test('listeners hear of every commit, until they stop listening', async () => {
      let heard = 0
      const stop = store.onNews(() => (heard += 1))
      await store.signUp(signUp('a@m.example'), 'a')
      stop()
      await store.signUp(signUp('b@m.example'), 'b')
      expect(heard).toBe(1)
    })
  })
}
