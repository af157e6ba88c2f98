/** Runs in a page: makes one of its origin's databases a copy of another, whatever it was, and forgets what else was kept. */
export async function copyDatabase([from, to]: readonly [from: string, to: string]): Promise<void> {
  localStorage.clear()
  sessionStorage.clear()
  const done = <T>(request: IDBRequest<T>): Promise<T> =>
    new Promise((resolve, reject) => {
      request.onsuccess = () => resolve(request.result)
      request.onerror = () => reject(request.error)
    })
  const source = await done(indexedDB.open(from))
  const reading = source.transaction([...source.objectStoreNames])
  const stores = await Promise.all(
    [...source.objectStoreNames].map(async (name) => {
      const store = reading.objectStore(name)
      const { keyPath, autoIncrement } = store
      const indexes = [...store.indexNames].map((index) => store.index(index))
      const [keys, values] = await Promise.all([done(store.getAllKeys()), done(store.getAll())])
      return { name, keyPath, autoIncrement, indexes, keys, values }
    }),
  )
  await done(indexedDB.deleteDatabase(to))
  const opening = indexedDB.open(to, source.version)
  opening.onupgradeneeded = () => {
    for (const { name, keyPath, autoIncrement, indexes, keys, values } of stores) {
      const copy = opening.result.createObjectStore(name, { keyPath, autoIncrement })
      for (const { name, keyPath, unique, multiEntry } of indexes)
        copy.createIndex(name, keyPath, { unique, multiEntry })
      for (const [at, value] of values.entries()) copy.put(value, keyPath === null ? keys[at] : undefined)
    }
  }
  for (const database of [await done(opening), source]) database.close()
}
