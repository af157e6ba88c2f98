import type { Page } from '@playwright/test'
import { type RunningBox } from '../programs'
import { objectsOf } from '../api'
import { expect, test } from './box'
import { picture, rewrite } from './form-station'
import { go, labels } from './hands'

/*
 * What the owner has in hand, form and mail alike: undo goes to what is seen, two windows share one draft, and it is
 * published when the receiver says so.
 */

test.use({ withMailbox: true })

const senderName = (workshop: Page) => workshop.getByLabel('Name', { exact: true })
async function openSender(workshop: Page, box: RunningBox): Promise<void> {
  const address = `${box.workshop}/forms/starchartform/mail`
  if (workshop.url() === address) await workshop.reload()
  else await workshop.goto(address)
  await workshop.getByRole('button', { name: 'Sender and addresses' }).click()
  await senderName(workshop).waitFor()
}
const mailOf = async (box: RunningBox) =>
  (await objectsOf(box, 'mail')).find(({ key }) => key === 'clearskyalerts')!.body!

test(
  'at the Mail station Ctrl+Z undoes the mail, and at the Form station the form',
  { tag: '@way' },
  async ({ paired: workshop, box }) => {
    await workshop.goto(`${box.workshop}/forms/starchartform`)
    const heading = picture(workshop).locator('.askbox-heading')
    await rewrite(heading, 'Winter stars')
    await openSenderHere(workshop)
    const before = await senderName(workshop).inputValue()
    await senderName(workshop).fill('The night desk')
    await senderName(workshop).blur()
    await expect(workshop.getByRole('button', { name: labels.undo })).toBeEnabled()
    await workshop.keyboard.press('Control+z')
    await expect(senderName(workshop)).toHaveValue(before)
    await workshop.keyboard.press('Control+z')
    await workshop.keyboard.press('Control+Shift+z')
    await expect(senderName(workshop)).toHaveValue('The night desk')
    // The form's own step was not touched meanwhile.
    await go(workshop, '/forms/starchartform/form')
    await expect(heading).toHaveText('Winter stars')
    await workshop.keyboard.press('Control+z')
    await expect(heading).not.toHaveText('Winter stars')
  },
)

/** From another station of the same form: nothing is loaded anew, so what can be undone stays. */
async function openSenderHere(workshop: Page): Promise<void> {
  await go(workshop, '/forms/starchartform/mail')
  await workshop.getByRole('button', { name: 'Sender and addresses' }).click()
  await senderName(workshop).waitFor()
}

test('a mail that two windows write has what both wrote; what came from the other can be undone', async ({
  paired: workshop,
  box,
}) => {
  const second = await workshop.context().newPage()
  await openSender(workshop, box)
  await openSender(second, box)
  const reply = (page: Page) => page.getByLabel(/^Answers go to/)
  await senderName(workshop).fill('The night desk')
  await senderName(workshop).blur()
  await expect(senderName(second)).toHaveValue('The night desk')
  await reply(second).fill('desk@cloudberryhill.example')
  await reply(second).blur()
  await expect(reply(workshop)).toHaveValue('desk@cloudberryhill.example')
  await workshop.getByRole('button', { name: labels.undo }).click()
  await expect(reply(second)).not.toHaveValue('desk@cloudberryhill.example')
  await expect(senderName(second)).toHaveValue('The night desk')
  await second.close()
})

test('with the receiver away nothing is said to be published, and one press publishes form and mail when it is back', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/forms/starchartform`)
  const versions = async () => (await objectsOf(box, 'version')).filter(({ key }) => key.startsWith('starchartform/'))
  const count = (await versions()).length
  await openSenderHere(workshop)
  await workshop.context().setOffline(true)
  await senderName(workshop).fill('The night desk')
  await senderName(workshop).blur()
  await workshop.getByRole('button', { name: /^Publish the mail/ }).click()
  const said = workshop.getByRole('alert').filter({ hasText: 'Not published' })
  await expect(said).toContainText('What is sent is as it was; the mail as you wrote it is safe here')
  await expect(workshop.getByRole('button', { name: /^Publish the mail/ })).toBeVisible()
  expect((await mailOf(box)).published!.senderName).not.toBe('The night desk')

  await go(workshop, '/forms/starchartform/form')
  await rewrite(picture(workshop).locator('.askbox-heading'), 'Winter stars')
  const publish = workshop.getByRole('button', { name: /^Publish (version|with)/ })
  await publish.click()
  await expect(workshop.getByRole('alert').filter({ hasText: 'The draft is safe here' })).toBeVisible()
  await workshop.context().setOffline(false)
  await publish.click()
  await workshop.getByText(new RegExp(`^Version ${count + 1} is published`)).waitFor()
  // Both are at the receiver when it is said.
  expect((await mailOf(box)).published!.senderName).toBe('The night desk')
  expect(await versions()).toHaveLength(count + 1)
})

test('Ctrl+K publishes as the form’s own page does, from anywhere', async ({ paired: workshop, box }) => {
  await workshop.goto(`${box.workshop}/forms/starchartform`)
  await rewrite(picture(workshop).locator('.askbox-heading'), 'Winter stars')
  await go(workshop, '/sites')
  await workshop.keyboard.press('Control+k')
  await workshop.getByLabel('Where to go, or what to do').fill('Publish')
  await workshop
    .getByRole('option', { name: /^Publish .*version/ })
    .first()
    .click()
  await workshop.getByText(/^Version \d+ is published/).waitFor()
  await expect(workshop).toHaveURL(/\/forms\/starchartform\/spot$/)
  const newest = (await objectsOf(box, 'version'))
    .map(({ body }) => body!)
    .filter(({ form }) => form === 'starchartform')
  expect(newest.at(-1)!.content.words.heading).toBe('Winter stars')
})
