import type { Engine } from './engine'

/** An engine whose database can be changed for another with the same content while everything goes on. */
export interface SwitchableEngine<Queries> extends Engine<Queries> {
  /**
   * Holds up all writes, has `work` done, and goes on with the engine that it resolves with; with the one of before, where it
   * throws. Who writes meanwhile waits.
   */
  switchWhile(work: () => Promise<Engine<Queries>>): Promise<void>
}

export function switchable<Queries extends object>(first: Engine<Queries>): SwitchableEngine<Queries> {
  let engine = first
  /** Resolves when writes go on; null while they do. */
  let gate: Promise<void> | null = null
  const former: Engine<Queries>[] = []
  let committed = (_writes: number) => {}
  let committedElsewhere = () => {}
  const wire = (one: Engine<Queries>) => {
    one.onCommit((writes) => committed(writes))
    one.onCommitElsewhere(() => committedElsewhere())
  }
  wire(first)
  // Asked of the engine of the moment; a function for each name, made once.
  const queries = new Map<PropertyKey, unknown>()
  const now = new Proxy({} as Queries, {
    get(_, name) {
      let query = queries.get(name)
      if (query === undefined)
        queries.set(
          name,
          (query = (...values: unknown[]) =>
            (engine.now as Record<PropertyKey, (...given: unknown[]) => unknown>)[name]!(...values)),
        )
      return query
    },
  })
  return {
    run: (work, about) => (gate === null ? engine.run(work, about) : gate.then(() => engine.run(work, about))),
    now,
    get isShared() {
      return engine.isShared
    },
    raw: () => engine.raw(),
    connections: () => engine.connections(),
    room: () => engine.room(),
    copyTo: (file) => engine.copyTo(file),
    occurrences: (texts) => engine.occurrences(texts),
    onCommit: (listener) => (committed = listener),
    onCommitElsewhere: (listener) => (committedElsewhere = listener),
    async switchWhile(work) {
      let open = () => {}
      gate = new Promise((resolve) => (open = resolve))
      try {
        // What was begun before is on disk.
        await engine.run(async () => undefined)
        const next = await work()
        former.push(engine)
        wire(next)
        engine = next
      } finally {
        gate = null
        open()
      }
    },
    async close() {
      await engine.close()
      for (const one of former) await one.close()
    },
  }
}
