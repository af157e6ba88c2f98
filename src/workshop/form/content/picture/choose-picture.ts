import type { PictureId } from '#core/ids'
import { MAX_PICTURE_BYTES, type Picture, pictureTypes } from '#core/picture'
import { callWorker } from '../../../worker-calls'
import type { ScaleFunctions } from './scale-worker'

/** Largest file that is read at all: photographs of today's cameras, with room. */
const MAX_FILE_BYTES = 40_000_000

/**
 * Turns a file into a picture for a form: scaled down in a worker to twice the largest place it is shown in
 * (screens have up to two pixels for one), its id made from its bytes.
 *
 * @param shownAt largest size it is shown at, in CSS pixels
 * @throws Error with words for the owner
 */
export async function pictureFrom(file: File, shownAt: { width: number; height: number }): Promise<Picture> {
  if (!file.type.startsWith('image/'))
    throw new Error(`“${file.name}” is not a picture. Choose a JPEG, PNG or WebP file.`)
  if (file.size > MAX_FILE_BYTES) throw new Error(`“${file.name}” is larger than 40 MB. Choose a smaller one.`)
  const worker = new Worker(new URL('./scale-worker.ts', import.meta.url), { type: 'module' })
  const answer = await callWorker<ScaleFunctions, Awaited<ReturnType<ScaleFunctions['scaled']>>>(worker, ({ scaled }) =>
    scaled({ file, mostWidth: shownAt.width * 2, mostHeight: shownAt.height * 2 }),
  )
  if (!answer.ok) throw new Error(answer.message)
  const bytes = new Uint8Array(await answer.blob.arrayBuffer())
  const type = pictureTypes.find((one) => one === answer.blob.type)
  if (type === undefined) throw new Error('The browser could not pack the picture.')
  if (bytes.length > MAX_PICTURE_BYTES)
    throw new Error('The picture stays too heavy even when scaled down. Choose one with less detail.')
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes))
  const id = [...digest.slice(0, 12)].map((byte) => byte.toString(16).padStart(2, '0')).join('') as PictureId
  return { id, type, width: answer.width, height: answer.height, name: file.name.slice(0, 200), bytes: base64(bytes) }
}

function base64(bytes: Uint8Array): string {
  let text = ''
  for (let at = 0; at < bytes.length; at += 0x8000) text += String.fromCharCode(...bytes.subarray(at, at + 0x8000))
  return btoa(text)
}
