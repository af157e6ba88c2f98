import { createHash } from 'node:crypto'
import fc from 'fast-check'
import type { CommandId, FormId, JournalId, ListId, MemberId, PictureId, SpotId } from '#core/ids'
import { type Arrival, type Command, emailIn, type Entry, type NewEntry } from '#core/journal'
import { factsOf, type Picture } from '#core/picture'
import type { Member } from '#core/list'
import type { SignUp } from '#core/signup'
import { MOST_MAILS_A_DAY } from '#core/mail'
import { startMail } from '#core/message'
import { richText } from '#core/text'
import demo from '../demo/cloudberry-hill.json'
import { aLetter, aSending } from './letters'
import { change, content, createdAt, form, list, site, spot, version, workspace } from './tables/samples'
import { commitmentOf } from '../src/receiver/people'
import { type Ledger, openLedger } from '../src/receiver/ledger'
import { mailJob, type MailBody } from '../src/receiver/mail/queued'
import type { Engine } from '../src/receiver/subjects'
import { type Job, LATER } from '../src/receiver/work/tables'
import { RETRY_WINDOW_MS } from '../src/receiver/people/tables'

/** What the suite needs to know of an engine. `open` on a place that was open before finds what was stored. */
export interface Place {
  open(place: string): Promise<Engine>
  newPlace(): string
}

const aRecipient = { typed: 'ada@m.example', compared: 'ada@m.example' }

/** Somebody who signs up at the sample's spot. */
export const signUp = (address: string, more: Partial<SignUp> = {}): SignUp => ({
  spot,
  version,
  isBot: false,
  message: null,
  joins: true,
  email: { typed: address, compared: address.toLowerCase() },
  values: {},
  tags: [],
  consents: [],
  passed: {},
  cameFrom: null,
  page: '',
  whereabouts: { country: '', zone: '' },
  ...more,
})

const aMember = (part: Pick<Member, 'id' | 'email' | 'revision'>): Member => ({
  ...{ list: list.id, status: 'confirmed', values: {}, tags: [], joinedAt: createdAt, from: null },
  ...part,
})

/** Every engine has to pass this, with the ledger over it. */
export function storeSuite(name: string, engines: Place): void {
  const open = async (place: string, now: () => number) => openLedger(await engines.open(place), now)

  describe(`ledger on ${name}`, () => {
    let place: string
    let time: number
    let store: Ledger
    beforeEach(async () => {
      place = engines.newPlace()
      time = Date.parse('2026-03-01T12:00:00.000Z')
      store = await open(place, () => time)
      await store.seed(workspace)
    })
    afterEach(() => store.close())

    const reopen = async () => {
      await store.close()
      store = await open(place, () => time)
    }
    const entriesOf = async (ledger: Ledger) => (await ledger.entriesAfter(0, null, 1000))!.items
    const entries = () => entriesOf(store)
    const objects = async () => (await store.objectsAfter(0, null, 1000))!.items

    test('a sign-up, the same person again, a bot: three arrivals, one member, in one order', async () => {
      expect(await store.signUp(signUp('Ada@m.example'), 'a')).toMatchObject({ verdict: 'joined', repeated: false })
      expect(await store.signUp(signUp('ada@M.example'), 'b')).toMatchObject({
        verdict: 'already-on-list',
        repeated: false,
      })
      expect(await store.signUp(signUp('bot@m.example', { isBot: true }), 'c')).toMatchObject({
        verdict: 'bot',
        repeated: false,
      })
      const [first, second, third] = (await entries()) as (Entry & { kind: 'arrival' })[]
      expect([first!.n, second!.n, third!.n]).toEqual([1, 2, 3])
      expect(second!.member).toBe(first!.member)
      expect(third!.member).toBeNull()
    })

    test('a retry within 30 s repeats the first answer and stores nothing; later it is what it is', async () => {
      await store.signUp(signUp('ada@m.example'), 'same')
      time += RETRY_WINDOW_MS
      expect(await store.signUp(signUp('ada@m.example'), 'same')).toMatchObject({ verdict: 'joined', repeated: true })
      // The browser may have tried again because the receiver ended before it answered.
      await reopen()
      expect(await store.signUp(signUp('ada@m.example'), 'same')).toMatchObject({ verdict: 'joined', repeated: true })
      time += 1
      expect(await store.signUp(signUp('ada@m.example'), 'same')).toMatchObject({
        verdict: 'already-on-list',
        repeated: false,
      })
      expect(await entries()).toHaveLength(2)
    })

    test('fifty at once with one address make one member, whether retries or not', async () => {
      const results = await Promise.all(
        Array.from({ length: 50 }, (_, at) => store.signUp(signUp('ada@m.example'), `key${at % 25}`)),
      )
      expect(results.filter(({ repeated, verdict }) => !repeated && verdict === 'joined')).toHaveLength(1)
      expect(results.filter(({ repeated }) => repeated)).toHaveLength(25)
      const members = new Set((await entries()).map((entry) => entry.kind === 'arrival' && entry.member))
      expect(members.size).toBe(1)
    })

    test('everything is there after closing and opening again', async () => {
      await store.signUp(signUp('ada@m.example', { values: { 'first-name': 'Åda “5” 👩‍🚀' } }), 'a')
      const before = {
        journal: await store.journalId(),
        entries: await entries(),
        objects: await objects(),
        mark: (await store.entriesAfter(1, null, 1))!.mark,
      }
      await reopen()
      expect({
        journal: await store.journalId(),
        entries: await entries(),
        objects: await objects(),
        mark: (await store.entriesAfter(1, null, 1))!.mark,
      }).toEqual(before)
      expect(await store.signUp(signUp('ada@m.example'), 'b')).toMatchObject({ verdict: 'already-on-list' })
    })

    test('a command is carried out once, however often it is sent, and its first outcome is repeated', async () => {
      const add: Command = {
        id: 'command1' as CommandId,
        kind: 'add-member',
        list: list.id,
        member: 'member1' as MemberId,
        email: 'ada@m.example',
        values: {},
      }
      const [first] = await store.carryOut([add])
      const remove: Command = {
        id: 'command2' as CommandId,
        kind: 'remove-member',
        list: list.id,
        member: 'member1' as MemberId,
        revision: 1,
      }
      const [second, refused] = await store.carryOut([remove, { ...remove, id: 'command3' as CommandId }])
      expect([first, second, refused]).toMatchObject([
        { ok: true, n: 1 },
        { ok: true, n: 2 },
        { ok: false, problem: { code: 'member-changed' } },
      ])
      await reopen()
      expect(await store.carryOut([add, remove])).toEqual([first, second])
      expect(await entries()).toHaveLength(2)
    })

    test('changes that belong together are taken whole or not at all', async () => {
      const before = [await store.latestChange(), JSON.stringify(await objects())]
      const next = { ...version, number: 2 }
      const renamed = { ...site, name: 'Renamed' }
      const at = (await objects()).find(({ kind }) => kind === 'site')!.revision
      const together = [change('version', next), change('site', renamed, at - 1)]
      expect(await store.takeChangesTogether(together)).toMatchObject([{ ok: true }, { ok: false, conflict: {} }])
      expect([await store.latestChange(), JSON.stringify(await objects())]).toEqual(before)
      expect(
        store
          .published()
          .versionsOf(form.id)
          .map(({ number }) => number),
      ).toEqual([1])
      const [first, second] = await store.takeChangesTogether([change('version', next), change('site', renamed, at)])
      expect([first, second]).toMatchObject([{ ok: true }, { ok: true }])
      expect(
        store
          .published()
          .versionsOf(form.id)
          .map(({ number }) => number),
      ).toEqual([1, 2])
      await reopen()
      expect(store.published().site(site.id)!.name).toBe('Renamed')
    })

    test('what the owner makes is kept with revisions: news, no news, a conflict with both sides, a version that never changes', async () => {
      const renamed = { ...site, name: 'Renamed' }
      const at = (await objects()).find(({ kind }) => kind === 'site')!.revision
      const [first] = await store.takeChanges([change('site', renamed, at)])
      expect(first).toMatchObject({ ok: true, revision: await store.latestChange() })
      // The same again, as when its answer was lost: no news.
      expect(await store.takeChanges([change('site', renamed, at)])).toEqual([first])
      expect(await store.takeChanges([change('site', { ...site, name: 'Other' }, at)])).toMatchObject([
        { ok: false, conflict: { revision: await store.latestChange(), body: renamed } },
      ])
      const reworded = { ...version, content: { ...content, words: { ...content.words, heading: 'Other' } } }
      // Each by itself: one that is refused stops none of the others.
      const outcomes = await store.takeChanges([
        change('version', reworded),
        change('spot', { ...spot, id: 'stray' as SpotId, form: 'nowhere' as FormId }),
        { kind: 'list', key: list.id, base: 0, body: { id: list.id } },
        { kind: 'list', key: 'otherlist', base: 0, body: list },
        change('version', { ...reworded, number: 2 }),
      ])
      expect(outcomes.map((one) => (one.ok ? 'ok' : 'problem' in one ? one.problem.code : 'conflict'))).toEqual([
        'version-taken',
        'broken-reference',
        'invalid',
        'invalid',
        'ok',
      ])
      expect([
        store.published().site(site.id)?.name,
        store.published().latestVersion(form.id)?.number,
        store.published().version(form.id, 1)?.content,
      ]).toEqual(['Renamed', 2, content])
      await reopen()
      expect([store.published().site(site.id)?.name, store.published().latestVersion(form.id)?.number]).toEqual([
        'Renamed',
        2,
      ])
    })

    test('a form that is taken away closes its spots and is told as gone; brought back, they are open again', async () => {
      const at = (await objects()).find(({ kind }) => kind === 'form')!.revision
      const [gone] = await store.takeChanges([{ kind: 'form', key: form.id, base: at, body: null }])
      expect(store.published().spot(spot.id)?.state).toBe('retired')
      expect((await store.objectsAfter(at, null, 100))!.items.find(({ kind }) => kind === 'form')).toMatchObject({
        key: form.id,
        body: null,
      })
      await reopen()
      expect(store.published().spot(spot.id)?.state).toBe('retired')
      await store.takeChanges([change('form', form, gone!.ok ? gone!.revision : 0)])
      expect(store.published().spot(spot.id)?.state).toBe('live')
    })

    test('changes are pulled after a cursor, in pages, with a mark that tells this history from another', async () => {
      const whole = await objects()
      const paged: unknown[] = []
      let [cursor, mark] = [0, '']
      for (;;) {
        const page = (await store.objectsAfter(cursor, mark, 2))!
        paged.push(...page.items)
        ;[cursor, mark] = [page.cursor, page.mark]
        if (page.cursor === page.latest) break
      }
      expect(paged).toEqual(whole)
      expect(await store.objectsAfter(cursor, mark, 10)).toMatchObject({ items: [], cursor, mark })
      expect([await store.objectsAfter(cursor, 'another', 10), await store.objectsAfter(cursor + 1, mark, 10)]).toEqual(
        [null, null],
      )
      await store.signUp(signUp('ada@m.example'), 'a')
      const page = (await store.entriesAfter(0, '', 10))!
      expect(await store.entriesAfter(page.cursor, page.mark, 10)).toMatchObject({ items: [], cursor: 1 })
      expect([await store.entriesAfter(1, 'another', 10), await store.entriesAfter(2, page.mark, 10)]).toEqual([
        null,
        null,
      ])
    })

    test('a picture is kept once, under the name that its bytes give it, before anything shows it', async () => {
      const bytes = Buffer.from('not really a picture').toString('base64')
      const picture: Picture = {
        id: 'd4b8e42a3d8e' as PictureId,
        type: 'image/png',
        width: 4,
        height: 4,
        name: 'a.png',
        bytes,
      }
      expect(await store.keepPicture(picture)).toMatchObject({ ok: false, code: 'wrong-id' })
      const named: Picture = {
        ...picture,
        id: createHash('sha256').update(Buffer.from(bytes, 'base64')).digest('hex').slice(0, 24) as PictureId,
      }
      expect(await store.takeChanges([change('picture', factsOf(named))])).toMatchObject([
        { ok: false, problem: { code: 'broken-reference' } },
      ])
      expect(await store.keepPicture(named)).toEqual({ ok: true })
      expect(await store.takeChanges([change('picture', factsOf(named))])).toMatchObject([{ ok: true }])
      expect([await store.picture(named.id), store.published().showsPicture(named.id)]).toEqual([named, false])
    })

    test('commands for a list that is not there are refused, and outcomes are forgotten after a month', async () => {
      const add = (id: string, to: string): Command => ({
        id: id as CommandId,
        kind: 'add-member',
        list: to as ListId,
        member: `member${id}` as MemberId,
        email: `${id}@m.example`,
        values: {},
      })
      expect(await store.carryOut([add('one', 'nolist'), add('two', list.id)])).toMatchObject([
        { ok: false, problem: { code: 'unknown-list' } },
        { ok: true },
      ])
      time += 31 * 86_400_000
      await store.signUp(signUp('later@m.example'), 'x')
      // Forgotten, but not done twice: the address is taken.
      expect(await store.carryOut([add('two', list.id)])).toMatchObject([
        { ok: false, problem: { code: 'address-taken' } },
      ])
    })

    test('a journal can be refilled in pieces, but not with gaps, not over another history, and not with entries that cannot follow', async () => {
      for (const address of ['a@m.example', 'b@m.example', 'c@m.example']) await store.signUp(signUp(address), address)
      const [journal, copy] = [await store.journalId(), (await entries()) as Arrival[]]
      const other = await open(engines.newPlace(), () => time)
      try {
        expect(await other.refill(journal, copy)).toMatchObject({ ok: false, code: 'broken-reference' })
        await other.seed({ ...workspace, journal: { id: null, entries: [] } })
        expect(await other.refill(journal, copy.slice(1))).toMatchObject({ ok: false, code: 'gap' })
        const twice = [copy[0]!, { ...copy[1]!, personal: copy[0]!.personal }]
        expect(await other.refill(journal, twice)).toMatchObject({
          ok: false,
          code: 'address-twice',
          message: expect.stringContaining('Entry 2'),
        })
        // Nothing of a refused batch stays.
        expect(await other.latest()).toBe(0)
        expect(await other.refill(journal, copy.slice(0, 2))).toEqual({ ok: true, latest: 2 })
        expect(await other.refill(journal, copy.slice(2))).toEqual({ ok: true, latest: 3 })
        expect([await other.journalId(), await entriesOf(other)]).toEqual([journal, copy])
        // The same history has the same marks, wherever it is kept.
        expect(await other.entriesAfter(3, (await store.entriesAfter(3, null, 1))!.mark, 10)).not.toBeNull()
        expect(
          await other.signUp(signUp('A@m.example', { email: { typed: 'A@m.example', compared: 'a@m.example' } }), 'x'),
        ).toMatchObject({ verdict: 'already-on-list' })
        expect(await other.refill('anotherjournal' as JournalId, [])).toMatchObject({ ok: false, code: 'not-empty' })
      } finally {
        await other.close()
      }
    })

    test('whatever waits is due in its turn, however low its priority', async () => {
      for (const priority of [3 * LATER, 1, LATER, 40]) {
        const body = { list: list.id, member: 'm' as MemberId, kind: 'welcome', recipient: aRecipient } as const
        await store.queue.add({ ...mailJob(body, time), worker: 'carrier', id: `p${priority}`, priority })
      }
      const due = async (limit: number) => (await store.queue.due('carrier', limit)).map(({ priority }) => priority)
      expect([await due(10), await due(3)]).toEqual([
        [1, 40, LATER, 3 * LATER],
        [1, 40, LATER],
      ])
    })

    test('jobs of one order key are done one after the other, even past one that waits for another try; others are not held up', async () => {
      const job = (id: string, orderKey: string, queued: number): Job => ({
        ...mailJob({ list: list.id, member: 'm' as MemberId, kind: 'welcome', recipient: aRecipient }, time),
        worker: 'carrier',
        id,
        orderKey,
        queued,
        due: time,
      })
      const { queue } = store
      for (const one of [
        job('b2', 'b', time - 1),
        job('b1', 'b', time - 2),
        job('c', 'c', time),
        job('free', '', time),
      ])
        expect(await queue.add(one)).toBe(true)
      const due = async () => (await queue.due('carrier', 10)).map(({ id }) => id).sort()
      expect(await due()).toEqual(['b1', 'c', 'free'])
      expect(await queue.take('b1')).toBe(true)
      expect(await due()).toEqual(['c', 'free'])
      await queue.settle('b1', { state: 'later', said: 'not now', due: time + 60_000 })
      expect(await due()).toEqual(['c', 'free'])
      for (const id of ['c', 'free']) await queue.settle(id, { state: 'done', said: '' })
      expect(await queue.nextDue('carrier')).toBe(time + 60_000)
      await queue.settle('b1', { state: 'done', said: '' })
      expect(await due()).toEqual(['b2'])
    })

    test('marks show a personal part that was changed, and stay when one is erased with its salt', async () => {
      for (const address of ['a@m.example', 'b@m.example']) await store.signUp(signUp(address), address)
      const [journal, copy] = [await store.journalId(), (await entries()) as Arrival[]]
      const [first, second] = copy as [Arrival, Arrival]
      expect(first.personal!.salt).not.toBe(second.personal!.salt)
      const { mark } = (await store.entriesAfter(0, null, 10))!
      const markOfOther = async (start: Arrival) => {
        const other = await open(engines.newPlace(), () => time)
        try {
          await other.seed({ ...workspace, journal: { id: null, entries: [] } })
          expect(await other.refill(journal, [start, second])).toMatchObject({ ok: true })
          const page = (await other.entriesAfter(0, null, 10))!
          expect(page.items).toEqual([start, second])
          return page.mark
        } finally {
          await other.close()
        }
      }
      expect(await markOfOther({ ...first, personal: null, commitment: commitmentOf(first)! })).toBe(mark)
      expect(await markOfOther({ ...first, personal: { ...first.personal!, page: 'https://else.example/' } })).not.toBe(
        mark,
      )
    })

    test('a receiver put back to an older copy takes in again what it lost, without doubling anybody', async () => {
      await store.signUp(signUp('before@m.example'), '1')
      const common = await store.latest()
      const older = await entries()
      await store.signUp(signUp('lost@m.example'), '2')
      await store.signUp(signUp('both@m.example'), '3')
      const lost = (await entries()).slice(common)
      const remove: Command = {
        id: 'remove1' as CommandId,
        kind: 'remove-member',
        list: list.id,
        member: (lost[1] as Arrival).member!,
        revision: 3,
      }
      await store.carryOut([remove])
      const whole = await entries()
      const restored = await open(engines.newPlace(), () => time)
      try {
        await restored.seed({ ...workspace, journal: { id: await store.journalId(), entries: older } })
        await restored.signUp(signUp('both@m.example'), '4')
        expect(await restored.entriesAfter(whole.length, null, 10)).toBeNull()
        expect(await restored.recover(common, whole.slice(common))).toEqual({ latest: 5, taken: 3, left: 0 })
        expect(await restored.recover(common, whole.slice(common))).toEqual({ latest: 5, taken: 0, left: 3 })
        const now = (await entriesOf(restored)) as Arrival[]
        expect(now.map((entry) => [entry.kind, entry.personal?.email?.typed, entry.verdict])).toEqual([
          ['arrival', 'before@m.example', 'joined'],
          ['arrival', 'both@m.example', 'joined'],
          ['arrival', 'lost@m.example', 'joined'],
          ['arrival', 'both@m.example', 'already-on-list'],
          ['member-removed', undefined, undefined],
        ])
        expect(new Set([now[1]!.member, now[3]!.member, now[4]!.member]).size).toBe(1)
      } finally {
        await restored.close()
      }
    })

    test('what a receiver lost is taken in again in stretches, each of which reads only what came since', async () => {
      const many = 300
      for (let at = 0; at < many; at += 50)
        await Promise.all(
          Array.from({ length: 50 }, (_, of) => store.signUp(signUp(`a${at + of}@m.example`), `${at + of}`)),
        )
      const whole = await entries()
      const read = { entries: 0 }
      const engine = await engines.open(engines.newPlace())
      const counted: Engine = {
        ...engine,
        run: (work) =>
          engine.run((transaction) =>
            work({
              ...transaction,
              async entriesAfter(n, limit) {
                const page = await transaction.entriesAfter(n, limit)
                read.entries += page.length
                return page
              },
            }),
          ),
      }
      const restored = await openLedger(counted, () => time)
      try {
        await restored.seed({ ...workspace, journal: { id: await store.journalId(), entries: [] } })
        for (let at = 0; at < many; at += 10) await restored.recover(0, whole.slice(at, at + 10))
        expect(await restored.recover(0, whole)).toEqual({ latest: many, taken: 0, left: many })
        expect(read.entries).toBe(many)
      } finally {
        await restored.close()
      }
    })

    test('the first so many of a list are those who came first, whatever became of them and whenever they came back', async () => {
      const at = async (address: string) => {
        const entry = (await entries()).find((one) => emailIn(one)?.typed === address) as Arrival
        return (await store.member(entry.member!))!
      }
      for (const address of ['a@m.example', 'b@m.example', 'c@m.example']) {
        await store.signUp(signUp(address), address)
        time += 1_000
      }
      await store.leave((await at('a@m.example')).id, 'page')
      await store.comeBack((await at('a@m.example')).id)
      const among = (many: number) =>
        Promise.all(['a', 'b', 'c'].map(async (name) => store.isAmongFirst(await at(`${name}@m.example`), many)))
      expect([await among(1), await among(2), await among(3)]).toEqual([
        [true, false, false],
        [true, true, false],
        [true, true, true],
      ])
      // A made-up member would be the next.
      const madeUp = { ...(await at('c@m.example')), id: 'nobodyatall' as MemberId }
      expect([await store.isAmongFirst(madeUp, 3), await store.isAmongFirst(madeUp, 4)]).toEqual([false, true])
    })

    test('a gift that works so many times goes out no more often, however many ask at once', async () => {
      await store.signUp(signUp('a@m.example'), 'a')
      const { member } = (await entries())[0] as Arrival
      const taken = await Promise.all(Array.from({ length: 40 }, () => store.takeDownload(member!, 3)))
      expect(taken.filter(Boolean)).toHaveLength(3)
      expect(await store.downloadsOf(member!)).toBe(3)
      expect(await store.takeDownload(member!, null)).toBe(true)
    })

    test('what cannot be stored whole is refused, and the neighbours in the same commit are kept', async () => {
      const results = await Promise.allSettled([
        store.signUp(signUp('a@m.example'), 'a'),
        store.signUp(signUp('nul\0@m.example'), 'b'),
        store.signUp(signUp('c@m.example'), 'c'),
      ])
      expect(results.map(({ status }) => status)).toEqual(['fulfilled', 'rejected', 'fulfilled'])
      expect((await entries()).map(({ n }) => n)).toEqual([1, 2])
      expect(await store.latest()).toBe(2)
    })

    test('sign-ups of one commit queue a mail each; an inbox gets its share for a day by whatever spelling, and no more', async () => {
      const settings = startMail(list.id, list.name).draft
      const mail = { ...settings, confirm: 'always' as const, senderAddress: 'us@m.example' }
      await store.takeChanges([change('mail', { list: list.id, draft: mail, published: mail })])
      const many = async (names: readonly string[]) =>
        (await Promise.all(names.map((name) => store.signUp(signUp(`${name}@m.example`), name)))).filter(
          ({ isMailHeld }) => isMailHeld,
        ).length
      await many(['ada+a', 'ada+b'])
      await reopen()
      time += 1
      const others = Array.from({ length: 40 }, (_, at) => `other${at}`)
      const held = await many(Array.from({ length: 80 }, (_, at) => (at % 2 ? `ada+${at}` : others[at / 2]!)))
      expect(held).toBe(40 - (MOST_MAILS_A_DAY - 2))
      expect((await store.queue.counts('mail')).open).toBe(40 + MOST_MAILS_A_DAY)
      const due = (await store.queue.due('mail', 200)).map(({ body }) => (body as MailBody).member)
      expect(new Set(due).size).toBe(40 + MOST_MAILS_A_DAY)
      // A day later there is room again.
      time += 86_400_000
      expect(await many(['ada+x', 'ada+y'])).toBe(0)
    })

    test('a page of entries as text is those entries: all of the demo, each of them erased, and whatever stands in it', async () => {
      const engine = await engines.open(engines.newPlace())
      const text = fc.oneof(
        fc.string({ unit: 'grapheme' }).map((one) => one.replaceAll('\0', '')),
        fc.constantFrom('"commitment":"x"', '}', '","personal":{"a":1}', '%', '\\'),
      )
      const erased = (entry: NewEntry) =>
        'personal' in entry ? [{ ...entry, personal: null, commitment: 'c' } as NewEntry] : []
      const invented = fc.sample(fc.tuple(text, text), 100).flatMap(([one, other]): NewEntry[] => {
        const personal = { salt: one, email: { typed: other, compared: one }, values: { [other]: other }, page: '' }
        const arrival = { kind: 'arrival', list: one, personal } as never
        const purpose = { kind: 'import', from: other, consent: one }
        return [{ kind: 'batch-begun', id: one, purpose } as never, arrival, ...erased(arrival)]
      })
      const ofDemo = (demo.journal.entries as unknown as Entry[]).map(({ n: _, ...entry }) => entry as NewEntry)
      const all = [...ofDemo, ...ofDemo.flatMap(erased), ...invented]
      try {
        await engine.run(async (transaction) => {
          for (const [at, entry] of all.entries()) await transaction.append(at + 1, entry, 'mark')
        })
        for (let after = 0; after < all.length;) {
          const { n, text } = (await engine.now.entriesTextAfter(after, 200))!
          const page = await engine.now.entriesAfter(after, 200)
          expect(JSON.parse(`[${text}]`)).toEqual(JSON.parse(JSON.stringify(page.map(({ entry }) => entry))))
          after = n
        }
        expect(await engine.now.entriesTextAfter(all.length, 200)).toBeNull()
      } finally {
        await engine.close()
      }
    })

    test('what a piece of work wrote it reads, by id and by address, read ahead or not, and so does the next', async () => {
      const engine = await engines.open(engines.newPlace())
      const step = fc.record({
        id: fc.nat(3),
        address: fc.nat(3),
        does: fc.constantFrom('keep', 'keep', 'keep', 'drop', 'read ahead', 'read'),
      })
      let runs = 0
      try {
        await fc.assert(
          fc.asyncProperty(fc.array(fc.array(step, { maxLength: 12 }), { maxLength: 4 }), async (pieces) => {
            const ofRun = `run${runs++}`
            const idOf = (id: number) => `${ofRun}-${id}` as MemberId
            const addressOf = (address: number) => `${address}@${ofRun}.example`
            const expected = new Map<number, Member>()
            const held = (address: number) =>
              [...expected.values()].find(({ email }) => email.compared === addressOf(address)) ?? null
            for (const steps of pieces)
              await engine.run(async (transaction) => {
                for (const { id, address, does } of steps) {
                  const before = expected.get(id)
                  if (does === 'read ahead')
                    await transaction.readAhead({
                      addresses: [{ list: list.id, compared: addressOf(address) }],
                      members: [idOf(id)],
                    })
                  else if (does === 'drop') {
                    await transaction.dropMember(idOf(id))
                    expected.delete(id)
                  } else if (does === 'keep' && (held(address) === null || held(address) === before)) {
                    const email = { typed: addressOf(address), compared: addressOf(address) }
                    const member = aMember({ id: idOf(id), email, revision: (before?.revision ?? 0) + 1 })
                    if (before?.email.compared === email.compared) await transaction.updateMember(member)
                    else await transaction.keepMember(member)
                    expected.set(id, member)
                  }
                  expect(await transaction.memberWithAddress(list.id, addressOf(address))).toEqual(held(address))
                  expect(await transaction.member(idOf(id))).toEqual(expected.get(id) ?? null)
                }
              })
            for (const at of [0, 1, 2, 3]) {
              expect(await engine.now.member(idOf(at))).toEqual(expected.get(at) ?? null)
              expect(await engine.now.memberWithAddress(list.id, addressOf(at))).toEqual(held(at))
            }
          }),
          { numRuns: 60 },
        )
      } finally {
        await engine.close()
      }
    })

    test('a letter is settled, queued, ended, mended, stopped and cancelled, each reader once, with what is kept of them', async () => {
      const mail = startMail(list.id, list.name).draft
      await store.takeChanges([change('mail', { list: list.id, draft: mail, published: mail })])
      for (const name of ['a', 'b', 'c', 'd']) await store.signUp(signUp(`${name}@m.example`), name)
      const sending = aSending(aLetter({ countsLinks: true }))
      const { id } = await store.letters.send(sending)
      const counts = async () => (await store.letters.sending(id))!.counts
      while ((await store.letters.work()) === 0);
      expect(await counts()).toMatchObject({ queued: 4, waiting: 0 })
      const letters = async () => (await store.queue.due('mail', 50)).filter(({ id }) => id.startsWith('l-'))
      const [first, second, third] = await letters()
      for (const job of [first!, second!, third!]) await store.queue.take(job.id)
      await store.queue.settle(first!.id, { state: 'done', said: '250' })
      await store.queue.settle(second!.id, { state: 'refused', said: '550', isTarget: false })
      await store.letters.mend(id, { ...aLetter(), subject: richText('Mended') })
      // What is in somebody's hand is not taken back.
      await store.letters.stop(id)
      expect(await counts()).toMatchObject({ sent: 1, refused: 1, queued: 1, waiting: 1 })
      expect(await letters()).toEqual([])
      await reopen()
      const of = (job: Job) => (job.body as MailBody).member as MemberId
      await store.letters.leftBy(id, of(first!))
      await store.letters.reported(id, of(first!), 'complained')
      await store.letters.reported(id, of(first!), 'bounced')
      expect(await store.letters.copiesOf(of(first!), 10)).toMatchObject([
        { state: 'bounced', words: 0, hasLeft: true, hasComplained: true },
      ])
      await store.letters.goOn(id)
      await store.letters.work()
      expect(await letters()).toHaveLength(1)
      await store.letters.cancel(id)
      await store.queue.settle(third!.id, { state: 'done', said: '250' })
      expect(await counts()).toEqual({
        ...{ waiting: 0, queued: 0, sent: 1, refused: 1, bounced: 1, dropped: 1, left: 1, complained: 1 },
      })
      expect(await store.letters.press(id, 0)).toBe('https://hill.example/programme')
      expect(await store.letters.press(id, 1)).toBeNull()
      expect(await store.letters.presses(id)).toEqual([{ address: 'https://hill.example/programme', presses: 1 }])
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
