import type { ServiceFile } from './service-file'

/** What a service takes, where its file does not say: `aSecond` requests, `atOnce` of them at the same time. */
export const USUAL_PACE = { aSecond: 10, atOnce: 4 }
/** How many people go in one request to a service that takes several, where its file does not say. */
export const USUAL_MOST = 100

/**
 * How long so many people take to go to a service: by its pace, or by what was seen since.
 *
 * @param seen how many went in how many milliseconds; null where nothing was seen yet
 * @returns milliseconds
 */
export function handOverMs(
  count: number,
  { pace = USUAL_PACE, requests }: Pick<ServiceFile, 'pace' | 'requests'>,
  seen: { count: number; ms: number } | null = null,
): number {
  if (seen !== null && seen.count > 0) return (count * seen.ms) / seen.count
  const aRequest = requests.putMany === undefined ? 1 : (requests.putMany.most ?? USUAL_MOST)
  return (Math.ceil(count / aRequest) * 1000) / pace.aSecond
}
