import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { end } from '../programs'
import { violationsOn } from './axe'
import { expect, test } from './box'
import { messyFile } from './messy-file'
import { labels } from './hands'

const ROWS = 5_000
/** Changes one row of the store behind its back. */
const tampering = (statement: string) => `
  const Database = require('libsql')
  const store = new Database(process.argv[1])
  const { changes } = store.prepare(${JSON.stringify(statement)}).run()
  store.close()
  process.exit(changes === 1 ? 0 : 1)
`
const tamperings = [
  [
    "UPDATE members SET body = replace(body, '@', 'x@') WHERE rank = (SELECT max(rank) FROM members WHERE list = 'schoolvisits') AND list = 'schoolvisits'",
    /on “School visits” is kept otherwise/,
  ],
  [
    "UPDATE journal SET personal = replace(personal, '@', 'x@') WHERE n = 100",
    /^Number 100 in the record of all that happened, .* is not as it was written/,
  ],
] as const
const wholeList = (workshop: Page) => workshop.getByRole('button', { name: /^Everybody [\d,]+$/ })
const dialog = (workshop: Page) => workshop.getByRole('dialog')

async function openImport(workshop: Page, address: string, list: string, text: string, name = 'people.csv') {
  await workshop.goto(`${address}/lists/${list}/import`)
  await workshop.locator('input[type=file]').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) })
  await expect(workshop.getByRole('heading', { name: 'What is in it' })).toBeVisible()
}

async function tryIt(workshop: Page): Promise<Record<string, number>> {
  await workshop.getByRole('button', { name: 'See what it would do' }).click()
  await expect(workshop.getByRole('heading', { name: 'What it would do' })).toBeVisible()
  const heads = await workshop.getByRole('region', { name: 'What it would do' }).getByRole('tab').allTextContents()
  return Object.fromEntries(
    heads.map((head) => {
      const [name = '', count = ''] = head.split(' · ')
      return [name.trim(), Number(count.replaceAll(',', ''))]
    }),
  )
}

async function bringIn(workshop: Page): Promise<void> {
  await workshop.getByLabel('How did they agree').fill('Signed the sheet at the fair of May 2024.')
  await workshop.getByRole('button', { name: /^Bring in [\d,]+ p/ }).click()
  await expect(workshop.getByRole('heading', { name: 'Brought in' })).toBeVisible()
}

test(
  'a messy file of 5,000 rows is matched, tried, brought in, undone, and brought in again',
  { tag: '@way' },
  async ({ paired: workshop, box }) => {
    await openImport(workshop, box.workshop, 'schoolvisits', messyFile(ROWS))
    const purpose = (column: string) => workshop.getByRole('combobox', { name: `What the column ${column} is for` })
    await expect(purpose('Contact')).toHaveAccessibleDescription('the address')
    await expect(purpose('Vorname')).toHaveAccessibleDescription('First name')
    await expect(purpose('Joined on')).toHaveAccessibleDescription('joined at')
    await expect(purpose('Groups')).toHaveAccessibleDescription('tags')
    // A column is made in place of one that the list lacks.
    await purpose('Lives in').click()
    await workshop.getByRole('option', { name: 'make a column of it' }).click()
    await expect(purpose('Lives in')).toHaveAccessibleDescription('Lives in')
    await expect(workshop.getByRole('combobox', { name: 'Encoding' })).toHaveAccessibleDescription('UTF-8')

    const counts = await tryIt(workshop)
    // Every 97th is a double, unless it is something else as well; every 211th has no address.
    expect(counts).toEqual({ New: 4888, 'Probably mistyped': 38, Refused: 23, 'Twice in the file': 51 })
    expect(await violationsOn(workshop)).toEqual([])
    const refused = workshop.waitForEvent('download')
    await workshop.getByRole('button', { name: 'Save the rows that are not taken' }).click()
    expect(readFileSync(await (await refused).path(), 'utf8').split('\r\n')).toHaveLength(1 + 23 + 51 + 1)

    await bringIn(workshop)
    await workshop.getByRole('button', { name: 'See the list' }).click()
    await expect(wholeList(workshop)).toHaveText(/4,976$/)
    await expect(workshop.getByRole('button', { name: /^Gone/ })).toHaveText(/84$/)

    // Somebody changes meanwhile, and is left alone and named.
    await workshop.getByLabel('Find an address').fill('person8@messy')
    await workshop.getByRole('link', { name: 'person8@messy.example' }).click()
    await workshop.getByLabel('First name').fill('Adalbert')
    await workshop.getByRole('button', { name: labels.save, exact: true }).click()
    await expect(workshop.getByText('First name: Ada → Adalbert')).toBeVisible()
    await workshop.getByRole('link', { name: 'School visits' }).click()
    await workshop.getByRole('tab', { name: 'How it grew' }).click()
    await workshop.getByRole('button', { name: /Files and changes of many/ }).click()
    const history = workshop.getByRole('listitem').filter({ hasText: 'Brought in “people.csv”' }).first()
    await expect(history).toContainText('4,926 people')
    await history.getByRole('button', { name: labels.undo }).click()
    const undone = workshop.getByRole('listitem').filter({ hasText: 'Undone: Brought in “people.csv”' })
    await expect(undone).toContainText('4,925 people, 1 left as they are')
    await expect(undone.getByRole('link', { name: 'changed since' })).toBeVisible()

    await openImport(workshop, box.workshop, 'schoolvisits', messyFile(ROWS))
    expect(await tryIt(workshop)).toEqual({
      New: 4887,
      'The same': 1,
      'Probably mistyped': 38,
      Refused: 23,
      'Twice in the file': 51,
    })
    await bringIn(workshop)
    await workshop.getByRole('button', { name: 'See the list' }).click()
    await expect(wholeList(workshop)).toHaveText(/4,976$/)
  },
)

test('a receiver killed while it brings people in goes on where it was, and a workshop that was closed meanwhile finds all of them', async ({
  paired: workshop,
  box,
}) => {
  const people = 6_000
  const file = ['Email', ...Array.from({ length: people }, (_, at) => `guest${at}@many.example`)].join('\n')
  await openImport(workshop, box.workshop, 'schoolvisits', file)
  expect(await tryIt(workshop)).toEqual({ New: people })
  await workshop.getByLabel('How did they agree').fill('Signed the sheet at the fair of May 2024.')
  const begun = workshop.waitForResponse((response) => response.url().endsWith('/apply'))
  await workshop.getByRole('button', { name: /^Bring in [\d,]+ p/ }).click()
  await begun
  await end(box.receiver, 'SIGKILL')
  await workshop.goto('about:blank')
  await box.restart()
  await workshop.goto(`${box.workshop}/lists/schoolvisits`)
  await expect(wholeList(workshop)).toHaveText(/6,050$/)
  await workshop.getByRole('tab', { name: 'How it grew' }).click()
  await workshop.getByRole('button', { name: /Files and changes of many/ }).click()
  await expect(workshop.getByRole('listitem').filter({ hasText: 'Brought in “people.csv”' }).first()).toContainText(
    '6,000 people',
  )
})

test('columns are dragged into another order and made wider, and stay so', async ({ paired: workshop, box }) => {
  await workshop.goto(`${box.workshop}/lists/schoolvisits`)
  const heads = async () =>
    (await workshop.getByRole('columnheader').allTextContents())
      .map((text) => text.trim())
      .filter((text) => !['', 'Chosen', 'Change'].includes(text))
  const boundsOf = async (name: string) => (await workshop.getByRole('columnheader', { name }).boundingBox())!
  await expect(wholeList(workshop)).toHaveText(/50$/)
  const before = await heads()
  await workshop.getByRole('button', { name: 'Columns shown' }).click()
  const grips = workshop.locator('.layout-menu .grip')
  await grips.nth(2).dragTo(grips.nth(0))
  await expect.poll(async () => (await heads())[0]).toBe(before[2])
  await workshop.keyboard.press('Escape')

  const narrow = await boundsOf(before[2]!)
  await workshop.mouse.move(narrow.x + narrow.width - 4, narrow.y + narrow.height / 2)
  await workshop.mouse.down()
  await workshop.mouse.move(narrow.x + narrow.width + 76, narrow.y + narrow.height / 2, { steps: 5 })
  await workshop.mouse.up()
  await expect.poll(async () => Math.round((await boundsOf(before[2]!)).width - narrow.width)).toBe(80)
  // Shown while it is dragged, the width is kept a moment later.
  await expect(workshop.locator('.handle.dragged')).toHaveCount(0)
  await workshop.reload()
  await expect(wholeList(workshop)).toHaveText(/50$/)
  expect(await heads()).toEqual([before[2], before[0], before[1], ...before.slice(3)])
  expect(Math.round((await boundsOf(before[2]!)).width - narrow.width)).toBe(80)
})

test('who left, complained or never joined is not put on the list in silence, in whatever words a file says it', async ({
  paired: workshop,
  box,
}) => {
  const cases = [
    ['State', ['on', 'on', 'off', 'complained', 'never joined'], { off: 'left', 'never joined': 'not taken' }],
    ['Anmeldestatus', ['aktiv', 'aktiv', 'abgemeldet', 'Beschwerde', 'fort'], { fort: 'not taken' }],
    ['状態', ['登録済み', '登録済み', '退会', '苦情', '見学'], { 見学: 'not taken' }],
  ] as const
  for (const [at, [heading, words, decisions]] of cases.entries()) {
    const rows = words.map((word, row) => `wren${at}${row}@m.example;${word};5/6/21`)
    await openImport(workshop, box.workshop, 'schoolvisits', [`Mail;${heading};Joined`, ...rows].join('\n'))
    const tries = workshop.getByRole('button', { name: 'See what it would do' })
    await expect(tries).toBeDisabled()
    // A day that can be read two ways is asked for as well.
    for (const [word, meaning] of [...Object.entries(decisions), ['5/6/21', '5 June 2021']] as const) {
      await workshop.getByRole('combobox', { name: `What “${word}” in` }).click()
      await workshop.getByRole('option', { name: meaning, exact: true }).click()
    }
    expect(await tryIt(workshop)).toEqual({ New: 4, 'Not taken, as it says': 1 })
    const dry = workshop.getByRole('region', { name: 'What it would do' })
    await expect(dry.getByRole('row', { name: new RegExp(`wren${at}0@`) })).toContainText(/on the list.*5 Jun 2021/)
    await expect(dry.getByRole('row', { name: new RegExp(`wren${at}2@`) })).toContainText('left')
    const follows = workshop.getByRole('region', { name: 'What follows' })
    await expect(follows).toContainText('2 new on the list, 2 kept as having left.')
    await expect(follows).toContainText('No mail goes to anybody.')
    expect(await violationsOn(workshop)).toEqual([])
    await bringIn(workshop)
    await expect(workshop.getByText('2 new on the list, 2 kept as having left.')).toBeVisible()
  }
})

test('what is no table is told, and nothing comes of it; pasted lines with names come in', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/lists/membersletter/import`)
  const give = (name: string, buffer: Buffer) =>
    workshop.locator('input[type=file]').setInputFiles({ name, mimeType: 'text/csv', buffer })
  await give('picture.csv', readFileSync('docs/screenshots/person.png'))
  await expect(workshop.getByRole('alert')).toContainText('This is no text')
  await workshop.getByRole('button', { name: 'Another file' }).click()
  await give('wide.csv', Buffer.from(`${Array.from({ length: 10_000 }, (_, at) => `c${at}`).join(',')}\n`))
  await expect(workshop.getByRole('alert')).toContainText('10000 columns')
  await workshop.getByRole('button', { name: 'Another file' }).click()

  await workshop.getByLabel('Or paste addresses').fill('Ada Lindqvist <ada@pasted.example>\nbea@pasted.example\nnobody')
  await workshop.getByRole('button', { name: 'Look at these lines' }).click()
  // Taken apart, a name has two columns; the one that the list lacks is made.
  await workshop.getByRole('combobox', { name: 'What the column Name is for' }).click()
  await workshop.getByRole('option', { name: 'whole name, taken apart' }).click()
  await expect(workshop.getByText('The list has a column “Last name” now.')).toBeVisible()
  expect(await tryIt(workshop)).toEqual({ New: 2, Refused: 1 })
  await expect(workshop.getByRole('row', { name: /ada@pasted/ })).toContainText(
    'First name: Ada · Last name: Lindqvist',
  )
  // Without a word of how they agreed nobody comes in.
  await expect(workshop.getByRole('button', { name: 'Bring in 2 people' })).toBeDisabled()
  await bringIn(workshop)
  await workshop.getByRole('button', { name: 'See the list' }).click()
  const row = workshop.getByRole('row', { name: /ada@pasted\.example/ })
  await expect(row).toContainText('Ada')
  await expect(row).toContainText('from “pasted lines”')
})

test('a filter is said in sentences and saved; all whom it finds are tagged as one, written to a file, and read back the same', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/lists/schoolvisits`)
  await expect(wholeList(workshop)).toHaveText(/50$/)
  await workshop.getByRole('button', { name: 'Filter', exact: true }).click()
  await workshop.getByRole('button', { name: 'A condition' }).click()
  await workshop.getByRole('combobox', { name: 'Which tag' }).click()
  await workshop.getByRole('option', { name: 'teachers’ day' }).click()
  await workshop.getByRole('button', { name: 'Another condition' }).click()
  await workshop.getByRole('combobox', { name: 'What is looked at' }).nth(1).click()
  await workshop.getByRole('option', { name: 'Class size' }).click()
  await workshop.getByRole('combobox', { name: 'How it is compared' }).click()
  await workshop.getByRole('option', { name: 'is filled' }).click()
  await expect(workshop.getByRole('status').filter({ hasText: /^16 people$/ })).toBeVisible()
  await workshop.getByLabel('Name for this filter').fill('Teachers')
  await workshop.getByRole('button', { name: 'Save the filter' }).click()
  await expect(workshop.getByRole('button', { name: /^Teachers/ })).toHaveText(/16$/)

  await workshop.getByRole('checkbox', { name: 'Choose all who are found' }).check({ force: true })
  const chosen = workshop.getByRole('region', { name: 'What to do with those who are chosen' })
  await expect(chosen).toContainText('16 people chosen')
  await workshop.getByRole('button', { name: 'Edit name' }).click()
  expect(await violationsOn(workshop)).toEqual([])
  await workshop.getByRole('button', { name: 'Done' }).click()
  await chosen.getByRole('button', { name: 'Tags' }).click()
  await dialog(workshop).getByLabel('The tag').fill('spring 2027')
  await dialog(workshop).getByRole('button', { name: 'Give it' }).click()
  await expect(workshop.getByText('16 people tagged “spring 2027”.')).toBeVisible()
  await expect(workshop.getByRole('row', { name: /office@/ }).first()).toContainText('spring 2027')
  await workshop.getByRole('alert').getByRole('button', { name: labels.undo }).last().click()
  await expect(workshop.getByText('16 people are as before.')).toBeVisible()
  await expect(workshop.getByRole('row', { name: /office@/ }).first()).not.toContainText('spring 2027')

  await chosen.getByRole('button', { name: 'Save as a file' }).click()
  const download = workshop.waitForEvent('download')
  await dialog(workshop).getByRole('button', { name: 'Save the file' }).click()
  const text = readFileSync(await (await download).path(), 'utf8')
  await openImport(workshop, box.workshop, 'schoolvisits', text)
  expect(await tryIt(workshop)).toEqual({ 'The same': 16 })
  await expect(workshop.getByRole('button', { name: 'There is nobody to bring in' })).toBeDisabled()
})

test('what is done to all who are found is done to those alone, whoever signs up or is brought in meanwhile', async ({
  paired: workshop,
  box,
}) => {
  const people = (from: number, to: number) =>
    ['Email', ...Array.from({ length: to - from }, (_, at) => `racing${from + at}@race.example`)].join('\n')
  await openImport(workshop, box.workshop, 'schoolvisits', people(0, 20))
  await tryIt(workshop)
  await bringIn(workshop)
  await workshop.goto(`${box.workshop}/lists/schoolvisits`)
  const found = workshop.getByRole('status').filter({ hasText: /^\d+ p(?:eople|erson)$/ })
  await workshop.getByLabel('Find an address').fill('@race.example')
  await expect(found).toHaveText('20 people')
  await workshop.getByRole('checkbox', { name: 'Choose all who are found' }).check({ force: true })
  const chosen = workshop.getByRole('region', { name: 'What to do with those who are chosen' })
  await chosen.getByRole('button', { name: labels.erase }).click()
  await expect(dialog(workshop)).toContainText('Exactly these are erased')

  // A sign-up, and another tab's import, both of people whom the same search finds.
  const answer = await fetch(`${box.workshop}/join/schoolvisit`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: 'late@race.example', 'first-name': 'Late' }),
  })
  expect(answer.status).toBe(200)
  const second = await workshop.context().newPage()
  await openImport(second, box.workshop, 'schoolvisits', people(20, 50))
  await tryIt(second)
  await bringIn(second)
  await second.close()
  await workshop.bringToFront()
  await expect(found).toHaveText('51 people')

  await dialog(workshop).getByText('It cannot be undone, and I want it.').click()
  await dialog(workshop).getByRole('button', { name: labels.erase }).click()
  await expect(dialog(workshop)).toContainText('20 people erased')
  await dialog(workshop).getByRole('button', { name: labels.close, exact: true }).click()
  await expect(found).toHaveText('31 people')
  await workshop.getByLabel('Find an address').fill('late@race.example')
  await expect(found).toHaveText('1 person')
  await workshop.getByLabel('Find an address').fill('racing0@race.example')
  await expect(workshop.getByText('Nobody matches.')).toBeVisible()
})

test(
  'a person is erased, found nowhere, and stopped at the next import',
  { tag: '@way' },
  async ({ paired: workshop, box }) => {
    const address = 'brandt.matteo@school.example'
    await workshop.goto(`${box.workshop}/lists/membersletter`)
    await workshop.getByRole('link', { name: address }).click()
    await workshop.getByRole('button', { name: labels.erase }).click()
    await dialog(workshop).getByText('It cannot be undone, and I want it.').click()
    await dialog(workshop).getByRole('button', { name: labels.erase }).click()
    await expect(dialog(workshop)).toContainText('1 person erased')
    await expect(dialog(workshop)).toContainText('found nowhere')
    await dialog(workshop).getByRole('button', { name: labels.close, exact: true }).click()
    await workshop.getByLabel('Find an address').fill(address)
    await expect(workshop.getByText('Nobody matches.')).toBeVisible()
    // Nor in what this browser keeps of the journal.
    await expect
      .poll(() =>
        workshop.evaluate(
          () =>
            new Promise<string>((resolve) => {
              const opening = indexedDB.open('ask-box')
              opening.onsuccess = () => {
                const all = opening.result.transaction('journal').objectStore('journal').getAll()
                all.onsuccess = () => {
                  opening.result.close()
                  resolve(JSON.stringify(all.result))
                }
              }
            }),
        ),
      )
      .not.toContain(address)
    await openImport(workshop, box.workshop, 'membersletter', `Email\n${address}\nnew@people.example\n`)
    expect(await tryIt(workshop)).toEqual({ New: 1, 'Erased before': 1 })
  },
)

test('receipts are checked, and a store that was tampered with is found out', async ({ paired: workshop, box }) => {
  await workshop.goto(`${box.workshop}/lists`)
  await workshop.getByRole('button', { name: 'See that no receipt was changed' }).click()
  await expect(workshop.getByText(/^All \d+ receipts are as they were written/)).toBeVisible()

  for (const [statement, words] of tamperings) {
    await end(box.receiver, 'SIGKILL')
    // In a process of its own, which lets go of the file with its end.
    execFileSync(process.execPath, ['-e', tampering(statement), join(box.folder, 'askbox.sqlite')])
    await box.restart()
    await expect(async () => {
      await workshop.getByRole('button', { name: 'See that no receipt was changed' }).click()
      await expect(workshop.getByText(words)).toBeVisible({ timeout: 5_000 })
    }).toPass()
  }
})

test('a list is put away and brought back, deleted only after its people were offered as a file; one without people says what to do', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/lists`)
  await workshop.getByRole('button', { name: 'New list' }).click()
  await workshop.getByLabel('Name, as its members will know it').fill('Winter walks')
  await workshop.getByRole('button', { name: 'Make the list' }).click()
  // It opens by itself, and leads on to a form that feeds it.
  await expect(workshop.getByRole('heading', { name: 'Nobody is on this list yet' })).toBeVisible()
  await workshop.getByRole('link', { name: 'Make a form for it' }).click()
  await expect(workshop.getByRole('radio', { name: 'Winter walks' })).toBeChecked()
  await workshop.goBack()
  await workshop.getByRole('button', { name: /^Add yourself/ }).click()
  await expect(workshop.getByRole('row', { name: /@cloudberryhill\.example/ })).toBeVisible()

  await workshop.getByRole('button', { name: 'Edit name' }).click()
  await workshop.getByRole('button', { name: 'Archive this list' }).click()
  await workshop.getByRole('link', { name: 'Lists', exact: true }).click()
  await expect(workshop.getByRole('region', { name: 'Archived' }).getByText('Winter walks')).toBeVisible()
  await workshop.getByRole('link', { name: 'Winter walks' }).click()
  await workshop.getByRole('button', { name: 'Edit name' }).click()
  await workshop.getByRole('button', { name: 'Bring the list back' }).click()
  await workshop.getByRole('button', { name: 'Delete the list' }).click()
  await expect(dialog(workshop).getByRole('button', { name: 'Delete the list' })).toBeDisabled()
  await dialog(workshop).getByRole('button', { name: 'I do not need the file' }).click()
  await dialog(workshop).getByRole('button', { name: 'Delete the list' }).click()
  await expect(workshop.getByText('The list “Winter walks” is gone.')).toBeVisible()
  await expect(workshop.getByRole('link', { name: 'Winter walks' })).toHaveCount(0)
  await workshop.getByRole('alert').getByRole('button', { name: labels.undo }).last().click()
  await expect(workshop.getByRole('link', { name: 'Winter walks' })).toBeVisible()
})
