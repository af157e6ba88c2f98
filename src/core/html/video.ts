import { madeVideo, noVideo, type VideoReading } from '#core/video'
import { elementsIn } from './elements'

/**
 * Reads a link or an embed snippet. Of a snippet only the frame's address, title and size are taken;
 * everything else in it is left out. Attributes as in HTML Living Standard, section 4.8.5.
 */
export function readVideo(pasted: string): VideoReading {
  const text = pasted.trim()
  if (text === '') return noVideo('Paste the video’s link, or the embed code that its host gives.')
  if (!text.includes('<')) return madeVideo(text, '', null)
  const frame = elementsIn(text).find(({ name }) => name === 'iframe')?.attributes
  if (frame === undefined)
    return noVideo('There is no frame in this code. Ask the video’s host for its embed code with an “iframe”.')
  const attribute = (name: string) => (frame.get(name) ?? '').trim()
  const [width, height] = [Number(attribute('width')), Number(attribute('height'))]
  const size = Number.isInteger(width) && Number.isInteger(height) && width > 0 && height > 0 ? { width, height } : null
  return madeVideo(attribute('src').replace(/^\/\//, 'https://'), attribute('title'), size)
}
