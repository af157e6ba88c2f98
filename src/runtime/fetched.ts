/** A receiver that does not answer is given up then; the link stands in the form's place, or what was typed stays. */
export const PATIENCE_MS = 10_000

/** What the script fetches beside it where it is needed; null where that is not allowed, or does not get through. */
export async function fetched<Module>(base: string, name: string): Promise<Module | null> {
  try {
    return (await import(/* @vite-ignore */ `${base}${name}.js`)) as Module
  } catch {
    return null
  }
}
