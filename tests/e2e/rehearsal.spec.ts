import { placePart, popUpPart, sharedLine } from '#core/embed'
import type { Version } from '#core/form'
import type { SiteId, SpotId } from '#core/ids'
import type { Proof } from '#core/proof'
import { startPopUp } from '#core/spot'
import type { Page } from '@playwright/test'
import { changeSpot, entriesAfter, objectsOf } from '../api'
import type { RunningBox } from '../programs'
import { expect, test } from './box'

/** Saves in a stand-in's editor, as its own form does. */
async function saveInEditor(box: RunningBox, key: string, slot: string, fields: Record<string, string>): Promise<void> {
  const response = await fetch(`${box.sites}/editor/${key}/${encodeURIComponent(slot)}`, {
    method: 'POST',
    headers: { Origin: box.sites, 'Content-Type': 'application/x-www-form-urlencoded' },
    body: new URLSearchParams(fields),
  })
  expect(response.ok).toBe(true)
  await fetch(`${box.sites}/editor/${key}/clear-cache`, { method: 'POST', headers: { Origin: box.sites } })
}

/** Once the receiver has it, newest last. */
async function proofsAt(box: RunningBox, spot: string, count: number): Promise<Proof[]> {
  let found: Proof[] = []
  await expect
    .poll(
      async () => {
        found = (await objectsOf(box, 'proof')).map(({ body }) => body!).filter((proof) => proof.spot === spot)
        return found.length
      },
      { timeout: 60_000 },
    )
    .toBe(count)
  return found
}
const troubleIn = ({ steps }: Proof) =>
  steps.filter(({ verdict }) => verdict !== 'passed').map(({ case: one, what, seen }) => `${one}: ${what}: ${seen}`)

async function openSpot(workshop: Page, box: RunningBox, form: string): Promise<void> {
  await workshop.goto(`${box.workshop}/forms/${form}/spot`)
  await workshop.locator('.spot').first().waitFor()
}

test('script code and a pop-up go through the visitors’ script, in a frame of this browser', async ({
  workshop,
  box,
}) => {
  const version = (await objectsOf(box, 'version'))
    .map(({ body }) => body as Version)
    .findLast((one) => one.form === 'clearskyform')!
  const made = {
    form: version.form,
    site: 'starparty' as SiteId,
    state: 'live' as const,
    createdAt: '2026-01-01T00:00:00.000Z',
  }
  await changeSpot(box, 'scriptspot', {
    ...made,
    id: 'scriptspot' as SpotId,
    kind: 'inline',
    code: 'script',
    page: `${box.sites}/star-party/tickets`,
  })
  await changeSpot(box, 'popupspot', {
    ...made,
    id: 'popupspot' as SpotId,
    kind: 'pop-up',
    code: 'script',
    page: `${box.sites}/star-party/tickets`,
    popUp: { ...startPopUp, pages: { which: 'but', patterns: ['/star-party/about'] } },
  })
  await saveInEditor(box, 'star-party', 'body:/tickets', {
    words: 'Words',
    code: placePart(version.content, box.workshop, 'scriptspot' as SpotId, null),
  })
  await saveInEditor(box, 'star-party', 'site-head', {
    code: sharedLine(box.workshop) + popUpPart(box.workshop, 'popupspot' as SpotId),
  })
  await openSpot(workshop, box, 'clearskyform')
  const before = (await entriesAfter(box, 0)).length
  for (const [spot, name] of [
    ['scriptspot', 'inline · live'],
    ['popupspot', 'pop-up · live'],
  ] as const) {
    const card = workshop.locator('.spot').filter({ hasText: 'Star party' }).filter({ hasText: name })
    await card.getByRole('button', { name: 'Rehearse', exact: true }).click()
    const [proof] = await proofsAt(box, spot, 1)
    // Bots read markup, in which there is no form; without scripts a pop-up is nothing at all.
    expect(troubleIn(proof!)).toEqual(expect.arrayContaining([expect.stringMatching(/^bot: .* no form in it to fill/)]))
    expect(proof!.steps.filter(({ verdict }) => verdict === 'failed')).toEqual([])
    expect(
      proof!.steps.filter(({ case: one, verdict }) => one === 'phone' && verdict === 'passed').length,
    ).toBeGreaterThan(1)
    console.log(spot, proof!.ms, troubleIn(proof!))
  }
  expect((await entriesAfter(box, 0)).length).toBe(before)
})
