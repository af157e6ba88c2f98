import { chromium } from 'playwright'
import { chromiumLaunch } from './chromium'
import { startBox } from './programs'
const box = await startBox()
const browser = await chromium.launch(chromiumLaunch)
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
page.on('pageerror', (e) => console.log('pageerror:', e.message))
try {
  await page.goto(box.pairing)
  await page.getByText('receiver connected').waitFor()
  await page.waitForTimeout(1000)
  await page.keyboard.press('Control+k')
  await page.waitForTimeout(700)
  await page.keyboard.type('rehearse')
  await page.waitForTimeout(400)
  await page.screenshot({ path: '/tmp/shot1.png' })
  await page.keyboard.press('Enter')
  await page.getByText(/^\d+ (passed|failed)$/).waitFor({ timeout: 200000 })
  await page.getByRole('button', { name: 'Close', exact: true }).click()
  await page.screenshot({ path: '/tmp/shot2.png' })
  await page.goto(`${box.workshop}/forms/blogletterform/spot`)
  await page.getByRole('button', { name: 'By hand' }).click()
  await page.getByRole('button', { name: /All that was tried/ }).click()
  await page.locator('.proof').scrollIntoViewIfNeeded()
  await page.waitForTimeout(1700)
  await page.screenshot({ path: '/tmp/shot3.png' })
} catch (e) { console.log(String(e).slice(0, 600)); await page.screenshot({ path: '/tmp/shot2.png' }) }
await browser.close()
await box.stop()
