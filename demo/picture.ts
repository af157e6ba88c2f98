import { deflateSync } from 'node:zlib'
import { createHash } from 'node:crypto'
import type { PictureId } from '#core/ids'
import type { Picture } from '#core/picture'
import { chance } from './chance'

const WIDTH = 900
const HEIGHT = 680

/** The hill at night, painted by this program: sky, stars, a ridge with the dome on it. Always the same. */
export function nightOverTheHill(): Picture {
  const dice = chance(77)
  const rows = Buffer.alloc((WIDTH * 3 + 1) * HEIGHT)
  const put = (x: number, y: number, colour: readonly number[], share = 1) => {
    if (x < 0 || y < 0 || x >= WIDTH || y >= HEIGHT) return
    const at = y * (WIDTH * 3 + 1) + 1 + x * 3
    for (let channel = 0; channel < 3; channel++)
      rows[at + channel] = Math.round(colour[channel]! * share + rows[at + channel]! * (1 - share))
  }
  const top = [14, 22, 40]
  const low = [64, 72, 98]
  for (let y = 0; y < HEIGHT; y++) {
    const share = Math.round((y / HEIGHT) ** 1.6 * 40) / 40
    for (let x = 0; x < WIDTH; x++)
      put(
        x,
        y,
        top.map((channel, at) => channel + (low[at]! - channel) * share),
      )
  }
  for (let star = 0; star < 420; star++) {
    const [x, y, light] = [Math.floor(dice.next() * WIDTH), Math.floor(dice.next() ** 1.4 * HEIGHT * 0.8), dice.next()]
    put(x, y, [240, 236, 220], 0.35 + light * 0.65)
    if (light > 0.85)
      for (const [dx, dy] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
      ] as const)
        put(x + dx, y + dy, [240, 236, 220], 0.5)
  }
  const ridge = (x: number) => HEIGHT * 0.78 - 70 * Math.sin((x / WIDTH) * Math.PI * 0.9 + 0.4) + 10 * Math.sin(x / 60)
  for (let x = 0; x < WIDTH; x++) for (let y = Math.floor(ridge(x)); y < HEIGHT; y++) put(x, y, [10, 14, 24])
  const [domeX, domeY, radius] = [560, Math.floor(ridge(560)) - 26, 58]
  for (let y = -radius; y <= 40; y++) {
    for (let x = -radius; x <= radius; x++) {
      const isDome = y <= 0 ? x * x + y * y <= radius * radius : Math.abs(x) <= radius - 6
      const isSlit = y < -8 && Math.abs(x - 18) < 7
      if (isDome) put(domeX + x, domeY + y, isSlit ? [240, 185, 77] : [24, 31, 50])
    }
  }
  const bytes = png(rows)
  return {
    id: createHash('sha256').update(bytes).digest('hex').slice(0, 24) as PictureId,
    type: 'image/png',
    width: WIDTH,
    height: HEIGHT,
    name: 'night-over-the-hill.png',
    bytes: bytes.toString('base64'),
  }
}

/** PNG (W3C Portable Network Graphics, third edition): signature, header, one data chunk, end. Rows begin with filter type 0. */
function png(rows: Buffer): Buffer {
  const header = Buffer.alloc(13)
  header.writeUInt32BE(WIDTH, 0)
  header.writeUInt32BE(HEIGHT, 4)
  header.set([8, 2, 0, 0, 0], 8)
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk('IHDR', header),
    chunk('IDAT', deflateSync(rows, { level: 9 })),
    chunk('IEND', Buffer.alloc(0)),
  ])
}

function chunk(type: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data])
  const whole = Buffer.alloc(8 + body.length)
  whole.writeUInt32BE(data.length, 0)
  body.copy(whole, 4)
  whole.writeUInt32BE(crc(body), 4 + body.length)
  return whole
}

function crc(bytes: Buffer): number {
  let sum = 0xffffffff
  for (const byte of bytes) {
    sum ^= byte
    for (let bit = 0; bit < 8; bit++) sum = sum & 1 ? (sum >>> 1) ^ 0xedb88320 : sum >>> 1
  }
  return (sum ^ 0xffffffff) >>> 0
}
