import { chromium } from 'playwright'
import { chromiumLaunch } from './chromium'
import { startBox } from './programs'
const box = await startBox()
const browser = await chromium.launch(chromiumLaunch)
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
page.on('console', (m) => ['error', 'warning'].includes(m.type()) && console.log('console:', m.text().slice(0, 300)))
page.on('pageerror', (e) => console.log('pageerror:', e.message))
try {
  await page.goto(box.pairing)
  await page.getByRole('button', { name: 'Rehearse everything' }).waitFor()
  await page.waitForTimeout(1500)
  await page.getByRole('button', { name: 'Rehearse everything' }).click()
  const t = Date.now()
  await page.waitForTimeout(1500)
  await page.screenshot({ path: '/tmp/shot1.png' })
  await page.getByText(/^\d+ (passed|failed)$/).waitFor({ timeout: 200000 })
  console.log('ms', Date.now() - t)
  await page.screenshot({ path: '/tmp/shot2.png' })
  const proofs = await page.evaluate(() => new Promise((resolve) => { const r = indexedDB.open('ask-box'); r.onsuccess = () => { const q = r.result.transaction('proofs').objectStore('proofs').getAll(); q.onsuccess = () => resolve(q.result) } }))
  for (const p of proofs as any[]) { console.log(p.about.spot.kind, p.code, p.verdict, p.ms, p.steps.length); for (const s of p.steps) if (s.verdict !== 'passed') console.log('   ', s.verdict, s.case, s.station, s.what, '|', s.seen, s.failure?.expected ?? '') }
} catch (e) { console.log(String(e).slice(0, 600)); await page.screenshot({ path: '/tmp/shot2.png' }) }
await browser.close()
await box.stop()
