import { chromium } from 'playwright'
import { startBox } from './programs'
import { startNameServer } from './name-zone'
const box = await startBox({ demo: true, withMailbox: true })
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox'] })
try {
  const names = await startNameServer(box.namesPort)
  names.zone.txt = { 'cloudberryhill.example': ['v=spf1 inlcude:_spf.post.example -all'] }
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.goto(box.pairing)
  await page.waitForTimeout(4000)
  await page.goto(`${box.workshop}/forms/starchartform/mail`)
  await page.getByRole('button', { name: 'Sender and addresses' }).click()
  await page.getByRole('button', { name: 'Check this sender' }).click()
  await page.getByRole('button', { name: 'Look it up until it is there' }).click()
  await page.waitForTimeout(1500)
  await page.getByText('Not there yet').scrollIntoViewIfNeeded()
  await page.screenshot({ path: '/tmp/shot1.png' })
} finally {
  await browser.close()
  await box.stop()
  process.exit(0)
}
