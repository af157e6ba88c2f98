import { createHash } from 'node:crypto'
import { PDFDocument, rgb, StandardFonts } from 'pdf-lib'
import { chance } from './chance'

/** The demo's gift: a sheet with the winter sky over an invented hill, drawn anew from the same seed to the same bytes. */
export async function starChart(): Promise<{ id: string; bytes: Uint8Array }> {
  const sheet = await PDFDocument.create()
  const fixed = new Date('2026-11-20T20:00:00.000Z')
  sheet.setTitle('The winter sky above Cloudberry Hill')
  sheet.setAuthor('Cloudberry Hill Observatory')
  sheet.setCreationDate(fixed)
  sheet.setModificationDate(fixed)
  const page = sheet.addPage([595, 842])
  const font = await sheet.embedFont(StandardFonts.Helvetica)
  const ink = rgb(0.16, 0.13, 0.09)
  page.drawText('The winter sky above Cloudberry Hill', { x: 60, y: 770, size: 22, font, color: ink })
  page.drawText('December to March, looking south at nine in the evening. Readable by red lamp.', {
    x: 60,
    y: 746,
    size: 11,
    font,
    color: ink,
  })
  const [x, y, radius] = [297, 420, 240]
  page.drawCircle({ x, y, size: radius, borderColor: ink, borderWidth: 1.5 })
  const draw = chance(20_261_120)
  for (let star = 0; star < 180; star += 1) {
    const [angle, far] = [draw.next() * 2 * Math.PI, Math.sqrt(draw.next()) * (radius - 8)]
    page.drawCircle({
      x: x + far * Math.cos(angle),
      y: y + far * Math.sin(angle),
      size: 0.6 + draw.next() ** 4 * 3,
      color: ink,
    })
  }
  for (const [letter, dx, dy] of [
    ['N', 0, radius + 8],
    ['S', 0, -radius - 18],
    ['E', -radius - 16, -4],
    ['W', radius + 8, -4],
  ] as const)
    page.drawText(letter, { x: x + dx - 3, y: y + dy, size: 13, font, color: ink })
  page.drawText('Open nights: every clear Friday. Bring a warm coat; soup is at the dome.', {
    x: 60,
    y: 96,
    size: 11,
    font,
    color: ink,
  })
  const bytes = await sheet.save({ useObjectStreams: false })
  return { id: createHash('sha256').update(bytes).digest('hex'), bytes }
}
