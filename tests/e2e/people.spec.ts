import { expect, test } from './box'
import { go } from './hands'

test('one person: what is kept is changed, tagged and noted, all of it told in one line of time; off the list and back', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/lists/membersletter`)
  await workshop.getByRole('link', { name: 'brandt.matteo@school.example' }).click()
  await expect(workshop.getByRole('heading', { level: 1 })).toHaveText('brandt.matteo@school.example')
  const story = workshop.getByRole('region', { name: 'What happened' }).getByRole('listitem')
  await expect(story).toContainText([/Changed by you.*Tagged: brings a telescope, volunteer/s, /Joined.*Through “/s])

  await workshop.getByLabel('First name').fill('Matteo B.')
  await workshop.getByLabel('Tags').fill('school')
  await workshop.getByLabel('Tags').press('Enter')
  await workshop.getByRole('button', { name: 'Save' }).click()
  await expect(story.first()).toContainText('First name: Matteo → Matteo B.')
  await expect(story.first()).toContainText('Tagged: school')

  await workshop.getByLabel('Write something down').fill('Wants the leaflet.')
  await workshop.getByRole('button', { name: 'Add the note' }).click()
  await expect(story.first()).toContainText('Wants the leaflet.')

  await workshop.getByRole('button', { name: 'Take off the list' }).click()
  await expect(story.first()).toContainText('Taken off the list by you')
  await workshop.getByRole('button', { name: 'Put back on the list' }).click()
  await expect(story.first()).toContainText('Put back by you')

  // An address of its own, and nobody's where there is nobody.
  const address = new URL(workshop.url()).pathname
  await workshop.reload()
  await expect(story).toHaveCount(6)
  await go(workshop, '/lists')
  await go(workshop, `${address}x`)
  await expect(workshop.getByRole('heading', { name: 'Nothing is at this address' })).toBeVisible()
})

test.describe('with a mailbox', () => {
  test.use({ withMailbox: true })

  test('a person’s mails stand among what happened, with what the server said', async ({ paired: workshop, box }) => {
    const body = 'email=wren.letters@post.example'
    const headers = { 'Content-Type': 'application/x-www-form-urlencoded', Accept: 'application/json' }
    expect((await fetch(`${box.workshop}/join/opennights`, { method: 'POST', headers, body })).status).toBe(200)
    await workshop.goto(`${box.workshop}/lists/clearskyalerts`)
    await workshop.getByRole('link', { name: 'wren.letters@post.example' }).click()
    const story = workshop.getByRole('region', { name: 'What happened' }).getByRole('listitem')
    await expect(story.filter({ hasText: 'Mail “Welcome” sent' })).toContainText('The server said: “250')
    await expect(story.filter({ hasText: 'Joined' })).toContainText('Through “')
  })
})
