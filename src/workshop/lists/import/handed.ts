/** People who are to be brought in and come from another screen, until the import takes them. */
let waiting: { blob: Blob; name: string } | null = null

export function handToImport(blob: Blob, name: string): void {
  waiting = { blob, name }
}

export function takeHanded(): { blob: Blob; name: string } | null {
  const taken = waiting
  waiting = null
  return taken
}
