const COPY = 'ask-box-workshop'

/**
 * Keeps a copy of the workshop's scripts and styles in the browser, so that it opens without the receiver
 * (see public/offline.js), and drops files of older builds. Fonts join the copy as they are used.
 */
export async function keepForOffline(): Promise<void> {
  if (!('serviceWorker' in navigator)) return
  await navigator.serviceWorker.register('/offline.js')
  // Where a browser lets none work, nothing would ever open the copy.
  await navigator.serviceWorker.ready
  const built = (await (await fetch('/files.json', { cache: 'no-store' })).json()) as Record<
    string,
    { file: string; css?: string[]; assets?: string[] }
  >
  const files = new Set([
    '/',
    ...Object.values(built).flatMap(({ file, css = [], assets = [] }) =>
      [file, ...css, ...assets].map((path) => `/${path}`),
    ),
  ])
  const copy = await caches.open(COPY)
  const copied = new Set((await copy.keys()).map(({ url }) => new URL(url).pathname))
  // The page itself is fetched anew each time; all or nothing, so that a copy that works is never given up for half of one.
  await copy.addAll([...files].filter((path) => path === '/' || (/\.(js|css)$/.test(path) && !copied.has(path))))
  for (const path of copied) if (!files.has(path)) await copy.delete(path)
}
