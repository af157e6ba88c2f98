import type { Connection, HandOver } from '#core/connection'
import type { ConnectionId, HandOverId } from '#core/ids'
import { database } from './database'
import type { WorkspaceTables } from './workspace-tables'

/** What is done to connections and to what is handed on by them. */
export function connectionChanges({ connection, handOver, handOvers }: WorkspaceTables) {
  const keepConnection = (one: Connection) => database.connections.put(one)
  const keepHandOver = (one: HandOver) => database.handOvers.put(one)
  /** With the hand-overs that go by it. */
  async function removeConnection(id: ConnectionId): Promise<() => Promise<unknown>> {
    const [before, handedOn] = [connection(id), handOvers.value.filter((one) => one.connection === id)]
    await database.transaction('rw', database.connections, database.handOvers, async () => {
      await database.handOvers.bulkDelete(handedOn.map((one) => one.id))
      await database.connections.delete(id)
    })
    return () =>
      database.transaction('rw', database.connections, database.handOvers, async () => {
        if (before !== null) await database.connections.put(before)
        await database.handOvers.bulkPut(handedOn)
      })
  }
  async function removeHandOver(id: HandOverId): Promise<() => Promise<unknown>> {
    const before = handOver(id)
    await database.handOvers.delete(id)
    return () => (before === null ? Promise.resolve() : database.handOvers.put(before))
  }

  return { keepConnection, keepHandOver, removeConnection, removeHandOver }
}
