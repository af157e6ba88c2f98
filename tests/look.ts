import { chromium } from 'playwright'
import { chromiumLaunch } from './chromium'
import { spawn } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
const data = mkdtempSync('/tmp/look-')
const child = spawn('node', ['scripts/start.mjs'], {
  env: { ...process.env, ASKBOX_DATA: data, ASKBOX_PORT: '4510', ASKBOX_SITES_PORT: '4520', ASKBOX_SMTP_PORT: '4525' },
})
const pairing: string = await new Promise((resolve) => {
  let said = ''
  child.stdout.on('data', (c) => {
    said += c
    const m = /Workshop\s+(\S+)/.exec(said)
    if (m) resolve(m[1]!)
  })
  child.stderr.on('data', (c) => console.error(String(c)))
})
const browser = await chromium.launch(chromiumLaunch)
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
page.on('pageerror', (e) => console.log('ERR', e.message))
page.on('console', (m) => m.type() === 'error' && console.log('CON', m.text()))
await page.goto(pairing)
await page.getByText('receiver connected').waitFor()
await page.getByText('joined in 7 days').first().waitFor()
const base = 'http://localhost:4510'
const steps = (await import(process.argv[2]!)).default
try {
  await steps(page, base)
} catch (e) {
  console.log(e)
  await page.screenshot({ path: '/tmp/shots/error.png' })
}
await browser.close()
child.kill('SIGTERM')
process.exit(0)
