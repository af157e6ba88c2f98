/** What the script fetches beside it where it is needed; null where that is not allowed, or does not get through. */
export async function fetched<Module>(base: string, name: string): Promise<Module | null> {
  try {
    return (await import(/* @vite-ignore */ `${base}${name}.js`)) as Module
  } catch {
    return null
  }
}
