import fc from 'fast-check'
import type { BatchProgress } from '#core/api'
import type { BatchId, ListId, MemberId } from '#core/ids'
import {
  type Batch,
  type BatchPurpose,
  type Chunk,
  commitmentTo,
  type Entry,
  personalText,
  type PersonRow,
} from '#core/journal'
import { affectedMembers, applyToMember, type Member } from '#core/list'
import { startMail } from '#core/message'
import { commitmentOf } from '../src/receiver/people'
import { type Ledger, openLedger } from '../src/receiver/ledger'
import { mailJob } from '../src/receiver/mail/queued'
import type { Engine } from '../src/receiver/subjects'
import { type Place, signUp } from './store-suite'
import { change, list, workspace } from './tables/samples'

const other = { ...list, id: 'otherlist' as ListId, name: 'Other list' }

export const row = (number: number, more: Partial<PersonRow> = {}): PersonRow => ({
  member: `person${number}` as MemberId,
  revision: null,
  email: `P${number}@people.example`,
  values: {},
  tags: [],
  status: 'confirmed',
  joinedAt: null,
  ...more,
})

/** Batches, on any engine. */
export function batchSuite(name: string, engines: Place): void {
  describe(`batches on ${name}`, () => {
    let place: string
    let time: number
    let engine: Engine
    let store: Ledger
    const open = async () => {
      engine = await engines.open(place)
      store = await openLedger(engine, () => time)
    }
    beforeEach(async () => {
      place = engines.newPlace()
      time = Date.parse('2026-03-01T12:00:00.000Z')
      await open()
      await store.seed(workspace)
      await store.takeChanges([change('list', other)])
    })
    afterEach(() => store.close())
    const entries = async () => (await store.entriesAfter(0, null, 5_000))!.items
    /** Everybody, as the journal alone tells. */
    const folded = async () => {
      const people = new Map<MemberId, Member>()
      for (const entry of await entries())
        for (const id of affectedMembers(entry)) {
          const member = applyToMember(people.get(id) ?? null, entry)
          if (member === null) people.delete(id)
          else people.set(id, member)
        }
      return people
    }
    let batches = 0
    async function staged(purpose: BatchPurpose, chunks: readonly Chunk[], ofList = list.id): Promise<BatchId> {
      const batch: Batch = { id: `batch${(batches += 1)}` as BatchId, list: ofList, purpose }
      expect(await store.batches.begin(batch)).toMatchObject({ ok: true })
      for (const [number, chunk] of chunks.entries())
        expect(await store.batches.addChunk(batch.id, number, chunk)).toMatchObject({ ok: true })
      return batch.id
    }
    async function applied(purpose: BatchPurpose, chunks: readonly Chunk[], ofList = list.id, most = 3) {
      const id = await staged(purpose, chunks, ofList)
      await store.batches.apply(id)
      while ((await store.batches.step(id, most)) !== null);
      return (await store.batches.progress(id))!
    }
    const anImport = { kind: 'import', from: 'people.csv', consent: 'They signed a paper list.' } as const
    /** All that is queued, as the receiver's own worker does it. */
    async function workOff(): Promise<void> {
      for (let [job] = await store.queue.due('batches', 1); job; [job] = await store.queue.due('batches', 1)) {
        while ((await store.batches.step(job.id, 9)) !== null);
        await store.queue.take(job.id)
        await store.queue.settle(job.id, { state: 'done', said: '' })
      }
    }
    const idOf = async (email: string) =>
      [...(await folded()).values()].find((one) => one.email.compared === email && one.list === list.id)!.id

    test('people are brought in, those who are there already or twice in it are left as they are, nobody gets mail', async () => {
      await store.signUp(signUp('ada@m.example'), 'a')
      const progress = await applied(anImport, [
        { people: [row(1), row(2, { tags: ['school'] }), row(3, { email: 'ADA@m.example' })] },
        { people: [row(4, { email: 'p1@PEOPLE.example' }), row(5, { email: 'nothing' }), row(6)] },
      ])
      expect(progress).toMatchObject({ state: 'done', counts: { done: 3, same: 0, passedOver: 3 } })
      expect(progress.passedOver.map(({ reason }) => reason)).toEqual(['there-already', 'there-already', 'invalid'])
      const people = await folded()
      expect(people.size).toBe(4)
      for (const member of people.values()) expect(await store.member(member.id)).toEqual(member)
      expect(people.get('person2' as MemberId)).toMatchObject({ tags: ['school'], from: null, batch: progress.id })
      expect(await store.queue.counts('mail')).toMatchObject({ open: 0 })
    })

    test('who left, was taken off or has yet to confirm stays so, whatever a batch says and calls itself', async () => {
      const member = async (email: string) => {
        const { member } = await store.signUp(signUp(email), email)
        return (await store.member(member))!
      }
      const [left, removed, elsewhere] = [
        await member('left@m.example'),
        await member('removed@m.example'),
        await member('elsewhere@m.example'),
      ]
      await store.leave(left.id, 'page')
      await applied({ kind: 'change', change: { kind: 'remove' } }, [
        { change: { kind: 'remove' }, members: [{ id: removed.id, revision: null }] },
      ])
      await applied(anImport, [{ people: [row(1, { status: 'waiting' }), row(2, { status: 'left' }), row(3)] }])
      const [brought] = [await store.member('person1' as MemberId)]
      const now = async ({ id }: Pick<Member, 'id'>) => (await store.member(id))!
      const asIs = async (who: Pick<Member, 'id'>, more: Partial<PersonRow> = {}): Promise<PersonRow> => {
        const { id, revision, email, values, tags = [] } = await now(who)
        return { member: id, revision, email: email.typed, values, tags, status: 'confirmed', joinedAt: null, ...more }
      }
      const undo = { kind: 'undo', of: 'batch1' as BatchId } as const
      const restore = { kind: 'restore', status: 'confirmed' } as const
      const withdraw = { kind: 'withdraw' } as const
      const cases: [string, BatchPurpose, Chunk, string, string?][] = [
        ['a file', anImport, { people: [await asIs(left)] }, 'off-the-list'],
        ['a file', anImport, { people: [await asIs(removed)] }, 'off-the-list'],
        ['a file', anImport, { people: [await asIs(brought!)] }, 'yet-to-confirm'],
        [
          'a file that gives them another address',
          anImport,
          { people: [await asIs({ id: 'person3' as MemberId }, { email: 'new@m.example' })] },
          'changed-since',
        ],
        [
          'somebody new by the id of one who left',
          anImport,
          { people: [row(9, { member: left.id })] },
          'there-already',
        ],
        ['somebody of another list', anImport, { people: [await asIs(elsewhere)] }, 'gone', other.id],
        [
          'a copy of who left',
          { kind: 'copy', from: list.id },
          { people: [row(9, { email: 'left@m.example' })] },
          'off-the-list',
          other.id,
        ],
        [
          'a copy of who waits',
          { kind: 'copy', from: list.id },
          { people: [row(9, { email: 'P1@people.example' })] },
          'yet-to-confirm',
          other.id,
        ],
        ['a copy of nobody', { kind: 'copy', from: list.id }, { people: [row(9)] }, 'gone', other.id],
        ['an undo of what was no batch', undo, { people: [await asIs(left)] }, 'changed-since'],
        [
          'an undo that confirms',
          { kind: 'undo', of: `batch${batches}` as BatchId },
          { people: [await asIs(brought!)] },
          'yet-to-confirm',
        ],
        [
          'an undo that forgets who left',
          undo,
          { change: withdraw, members: [{ id: left.id, revision: null }] },
          'changed-since',
        ],
        [
          'putting many back',
          { kind: 'change', change: restore },
          { change: restore, members: [{ id: left.id, revision: null }] },
          'off-the-list',
        ],
      ]
      for (const [name, purpose, chunk, reason, ofList] of cases) {
        const { counts, passedOver } = await applied(purpose, [chunk], (ofList ?? list.id) as ListId)
        expect([name, counts, passedOver.map((one) => one.reason)]).toEqual([
          name,
          { done: 0, same: 0, passedOver: 1 },
          [reason],
        ])
      }
      expect([(await now(left)).status, (await now(removed)).status, (await now(brought!)).status]).toEqual([
        'left',
        'removed',
        'waiting',
      ])
      // A chunk of another kind than its batch is not even staged.
      const batch: Batch = { id: 'oddbatch' as BatchId, list: list.id, purpose: anImport }
      await store.batches.begin(batch)
      expect(
        await store.batches.addChunk(batch.id, 0, { change: restore, members: [{ id: left.id, revision: null }] }),
      ).toMatchObject({ ok: false })
      // What a batch did is undone all the same.
      const off = { kind: 'change', change: { kind: 'remove' } } as const
      await applied(off, [{ change: off.change, members: [{ id: elsewhere.id, revision: null }] }])
      const undone = await applied({ kind: 'undo', of: `batch${batches}` as BatchId }, [
        { people: [await asIs(elsewhere)] },
      ])
      expect([undone.counts.done, (await now(elsewhere)).status]).toEqual([1, 'confirmed'])
    })

    test('who has to confirm is asked by mail only where that was chosen, and waits from then on', async () => {
      const mail = startMail(list.id, list.name)
      const published = { ...mail.draft, senderName: 'A', senderAddress: 'a@m.example' }
      expect(await store.takeChanges([change('mail', { ...mail, published })])).toMatchObject([{ ok: true }])
      const waiting = (number: number) => row(number, { status: 'waiting', joinedAt: '2020-01-01T00:00:00.000Z' })
      await applied(anImport, [{ people: [waiting(1)] }])
      expect(await store.queue.counts('mail')).toMatchObject({ open: 0 })
      await applied({ ...anImport, asksByMail: true }, [{ people: [waiting(2), row(3)] }])
      expect(await store.queue.counts('mail')).toMatchObject({ open: 1 })
      expect((await folded()).get('person2' as MemberId)!.joinedAt).toBe(new Date(time).toISOString())
    })

    test('many get the same change in few entries; undone, all are as before but for who changed since', async () => {
      await applied(anImport, [{ people: Array.from({ length: 12 }, (_, at) => row(at)) }])
      const before = await folded()
      const members = [...before.keys()].map((id) => ({ id, revision: null }))
      const latest = await store.latest()
      const tagged = await applied(
        { kind: 'change', change: { kind: 'tag', tag: 'school' } },
        [{ change: { kind: 'tag', tag: 'school' }, members }],
        list.id,
        6,
      )
      expect(tagged.counts).toEqual({ done: 12, same: 0, passedOver: 0 })
      expect((await store.latest()) - latest).toBe(4)
      const since = (await folded()).get('person3' as MemberId)!
      await store.carryOut([
        { id: 'cmd1' as never, kind: 'remove-member', list: list.id, member: since.id, revision: since.revision },
      ])
      const undone = await applied({ kind: 'undo', of: tagged.id }, [
        {
          change: { kind: 'untag', tag: 'school' },
          members: members.map(({ id }) => ({ id, revision: id === since.id ? since.revision : null })),
        },
      ])
      expect(undone).toMatchObject({ counts: { done: 11, passedOver: 1 } })
      expect(undone.passedOver).toEqual([{ member: since.id, reason: 'changed-since' }])
      for (const member of (await folded()).values())
        expect(member.tags).toEqual(member.id === since.id ? ['school'] : [])
    })

    test('a receiver that ends in the middle goes on where it was; nobody is written twice', async () => {
      const id = await staged(anImport, [{ people: [row(1), row(2), row(3)] }, { people: [row(4), row(5)] }])
      await store.batches.apply(id)
      await store.batches.step(id, 2)
      await store.close()
      await open()
      expect((await store.queue.due('batches', 5)).map((job) => job.id)).toEqual([id])
      while ((await store.batches.step(id, 2)) !== null);
      expect((await folded()).size).toBe(5)
      expect((await entries()).filter(({ kind }) => kind === 'member-written')).toHaveLength(5)
      expect(await store.batches.progress(id)).toMatchObject({ state: 'done', at: 5, total: 5 })
    })

    test('chunks are staged once and in order, and none once it is applied; stopped, what was done stays', async () => {
      const id = await staged(anImport, [{ people: [row(1)] }])
      expect(await store.batches.addChunk(id, 0, { people: [row(9)] })).toMatchObject({ progress: { total: 1 } })
      expect(await store.batches.addChunk(id, 2, { people: [row(2)] })).toMatchObject({
        problem: { code: 'chunk-missing' },
      })
      await store.batches.addChunk(id, 1, { people: [row(2)] })
      await store.batches.apply(id)
      expect(await store.batches.addChunk(id, 2, { people: [row(3)] })).toMatchObject({
        problem: { code: 'begun-already' },
      })
      await store.batches.step(id, 1)
      await store.batches.stop(id)
      expect(await store.batches.step(id, 1)).toBeNull()
      expect([...(await folded()).keys()]).toEqual(['person1'])
      expect((await entries()).at(-1)).toMatchObject({ kind: 'batch-ended', isStopped: true })
      expect(await store.batches.apply('nothere')).toMatchObject({ problem: { code: 'unknown-batch' } })
    })

    const addresses = fc.nat(7)
    const act = fc.oneof(
      fc.record({ do: fc.constant('sign up' as const), who: addresses }),
      fc.record({ do: fc.constant('leave' as const), who: addresses }),
      fc.record({ do: fc.constant('import' as const), who: fc.uniqueArray(addresses, { maxLength: 6 }) }),
      fc.record({ do: fc.constantFrom('tag' as const, 'remove' as const, 'erase' as const), who: addresses }),
      fc.record({ do: fc.constant('step' as const), most: fc.integer({ min: 1, max: 4 }) }),
      fc.record({ do: fc.constantFrom('stop' as const, 'end and start' as const) }),
    )
    type Act = typeof act extends fc.Arbitrary<infer One> ? One : never
    let last: BatchId | null = null
    const known = async (who: number) =>
      [...(await folded()).values()].find(({ email }) => email.compared === `p${who}@m.example`) ?? null
    async function carryOut(one: Act, name: string): Promise<void> {
      switch (one.do) {
        case 'sign up':
          await store.signUp(signUp(`p${one.who}@m.example`), name)
          break
        case 'leave': {
          const member = await known(one.who)
          if (member !== null) await store.leave(member.id, 'page')
          break
        }
        case 'import':
          last = await staged(anImport, [
            {
              people: one.who.map((who) =>
                row(who, { member: `${name}p${who}` as MemberId, email: `P${who}@m.example` }),
              ),
            },
          ])
          await store.batches.apply(last)
          break
        case 'tag':
        case 'remove':
        case 'erase': {
          const member = await known(one.who)
          if (member === null) break
          const { id, revision } = member
          const way = one.do === 'tag' ? ({ kind: 'tag', tag: 'school' } as const) : ({ kind: 'remove' } as const)
          last =
            one.do === 'erase'
              ? await staged({ kind: 'erase' }, [{ erase: [id] }])
              : await staged({ kind: 'change', change: way }, [{ change: way, members: [{ id, revision }] }])
          await store.batches.apply(last)
          break
        }
        case 'step': {
          const [job] = await store.queue.due('batches', 1)
          if (job !== undefined) await store.batches.step(job.id, one.most)
          break
        }
        case 'stop':
          if (last !== null) await store.batches.stop(last)
          break
        case 'end and start':
          await store.close()
          await open()
      }
    }
    async function expectAsTheJournalTells(): Promise<void> {
      const people = await folded()
      for (const member of people.values()) expect(await store.member(member.id)).toEqual(member)
      const compared = [...people.values()].map(({ list, email }) => `${list} ${email.compared}`)
      expect(new Set(compared).size).toBe(compared.length)
      const all = await entries()
      expect(all.map(({ n }) => n)).toEqual(all.map((_, at) => at + 1))
      // Each batch that began has ended, once.
      const begun = all.filter(({ kind }) => kind === 'batch-begun').length
      expect(all.filter(({ kind }) => kind === 'batch-ended')).toHaveLength(begun)
      for (const entry of all)
        if (entry.kind === 'members-erased') for (const id of entry.members) expect(await store.member(id)).toBeNull()
      expect((await store.check(0)).broken).toBeNull()
    }

    test('property: whatever is done at once, in whatever order and with kills in between, everybody is as the journal tells', async () => {
      let rounds = 0
      await fc.assert(
        fc.asyncProperty(fc.array(act, { maxLength: 25 }), async (acts) => {
          await store.close()
          place = engines.newPlace()
          await open()
          await store.seed(workspace)
          await store.takeChanges([change('list', other)])
          const round = (rounds += 1)
          last = null
          for (const [at, one] of acts.entries()) await carryOut(one, `r${round}a${at}`)
          await workOff()
          await expectAsTheJournalTells()
        }),
        { numRuns: 25 },
      )
    })

    describe('erasing', () => {
      const erase = async (...emails: string[]): Promise<BatchProgress> => {
        const ids = await Promise.all(emails.map(idOf))
        return applied({ kind: 'erase' }, [{ erase: ids }])
      }
      const bytes = (texts: string[]) => engine.occurrences(texts)

      beforeEach(async () => {
        await store.signUp(signUp('Ada@m.example', { values: { 'first-name': 'Ada' } }), 'a')
        await store.signUp(signUp('ada@m.example'), 'again')
        await store.signUp(signUp('ada@m.example', { isBot: true }), 'bot')
        await store.signUp(signUp('bea@m.example'), 'b')
        await applied(anImport, [{ people: [row(1, { email: 'ada@M.example' }), row(2)] }], other.id)
        const ada = await idOf('ada@m.example')
        const recipient = { typed: 'Ada@m.example', compared: 'ada@m.example' }
        await store.queue.add(mailJob({ list: list.id, member: ada, kind: 'welcome', recipient }, time))
        await store.carryOut([
          { id: 'note1' as never, kind: 'note-member', list: list.id, member: ada, text: 'Rang about ada@m.example.' },
          {
            id: 'twice1' as never,
            kind: 'add-member',
            list: list.id,
            member: 'm2' as never,
            email: 'ADA@m.example',
            values: {},
          },
        ])
      })

      test('goes everywhere: all lists, history, mails, outcomes, and the bytes of the store', async () => {
        const members = [...(await folded()).values()].filter((one) => one.email.compared === 'ada@m.example')
        expect(members).toHaveLength(2)
        const marks = (await entries()).map(({ n }) => n)
        const progress = await erase('ada@m.example')
        expect(progress).toMatchObject({
          state: 'done',
          report: { entries: expect.any(Number) as number, blanked: 5, members: 2, mails: 1, outcomes: 1 },
        })
        // A database server keeps its own files.
        if (progress.report!.left !== null) expect(progress.report!.left).toBe(0)
        expect(await bytes(['bea@m.example'])).not.toBe(0)
        for (const { id } of members) expect(await store.member(id)).toBeNull()
        expect(JSON.stringify(await entries()).toLowerCase()).not.toContain('ada@m.example')
        expect([...(await folded()).values()].map(({ email }) => email.compared).sort()).toEqual([
          'bea@m.example',
          'p2@people.example',
        ])
        // The chain is whole: the marks take in what the erased parts were committed to by.
        expect((await entries()).map(({ n }) => n).slice(0, marks.length)).toEqual(marks)
        for (let after = 0; ;) {
          const check = await store.check(after)
          expect(check.broken).toBeNull()
          if (check.cursor === check.latest) break
          after = check.cursor
        }
      })

      test('no import brings them back; their own sign-up is welcome', async () => {
        await erase('ada@m.example')
        const again = await applied(anImport, [{ people: [row(7, { email: 'ada@m.example' })] }])
        expect(again).toMatchObject({ counts: { done: 0 }, passedOver: [{ reason: 'erased-before' }] })
        expect(await store.signUp(signUp('ada@m.example'), 'new')).toMatchObject({ verdict: 'joined' })
      })

      test('whom a list keeps no longer is erased by itself, once their days are over', async () => {
        const { items } = (await store.objectsAfter(0, null, 1_000))!
        const { revision } = items.find(({ kind, key }) => kind === 'list' && key === list.id)!
        await store.takeChanges([change('list', { ...list, keeping: { leftDays: 30 } }, revision)])
        const ada = await idOf('ada@m.example')
        await store.leave(ada, 'page')
        time += 29 * 86_400_000
        expect(await store.eraseKeptLongEnough()).toBe(0)
        time += 2 * 86_400_000
        expect(await store.eraseKeptLongEnough()).toBe(1)
        await workOff()
        expect(await store.member(ada)).toBeNull()
        expect(JSON.stringify(await entries())).not.toContain('ada@m.example')
      })

      test('a journal with somebody erased fills a new receiver, which knows whom not to bring back', async () => {
        await erase('ada@m.example')
        const all = await entries()
        const marks = (await store.entriesAfter(0, null, 5_000))!.mark
        const journal = await store.journalId()
        // Whom not to bring back is known by the key of links, which its owner kept.
        const sealed = await store.keptLinkKeys.sealedWith('open nights')
        await store.close()
        place = engines.newPlace()
        await open()
        expect(await store.keptLinkKeys.takeSealed(sealed, 'open nights')).toBe(true)
        await store.takeChanges([change('list', list), change('list', other)])
        for (const entry of all) expect(await store.refill(journal, [entry])).toMatchObject({ ok: true })
        expect((await store.entriesAfter(0, null, 5_000))!.mark).toBe(marks)
        const again = await applied(anImport, [{ people: [row(7, { email: 'ada@m.example' })] }])
        expect(again.passedOver).toMatchObject([{ reason: 'erased-before' }])
      })

      test('what was erased since a copy was made goes from the copy too, once a workshop brings it up to date', async () => {
        const common = await store.latest()
        const before = await entries()
        await erase('ada@m.example')
        const since = (await entries()).slice(common)
        const journal = await store.journalId()
        await store.close()
        place = engines.newPlace()
        await open()
        await store.takeChanges([change('list', list), change('list', other)])
        await store.refill(journal, before)
        expect(JSON.stringify(await entries())).toContain('ada@m.example')
        await store.recover(common, since)
        await workOff()
        expect(JSON.stringify(await entries()).toLowerCase()).not.toContain('ada@m.example')
      })
    })

    test('an entry that was changed afterwards shows, and what an erased one is committed to by is computed alike', async () => {
      await applied(anImport, [{ people: [row(1), row(2), row(3)] }])
      const third = (await entries()).find((entry) => entry.kind === 'member-written')! as Entry & { personal: object }
      expect(await store.check(0)).toMatchObject({ broken: null, receipts: 3 })
      expect(commitmentTo(personalText(third)!)).toBe(commitmentOf(third))
      await engine.run((transaction) =>
        transaction.blankEntry(third.n, { ...third, personal: null, commitment: 'other' } as never),
      )
      expect(await store.check(0)).toMatchObject({ broken: { n: third.n } })
    })
  })
}
