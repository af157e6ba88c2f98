import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { expect, test } from '@playwright/test'

/** So many ports one after the other that nobody has. */
async function freePorts(many: number): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1')
  await once(probe, 'listening')
  const { port } = probe.address() as { port: number }
  probe.close()
  await once(probe, 'close')
  return port + many < 65_536 ? port : freePorts(many)
}

test('npm run dev serves the workshop from its sources, and hands on to the receiver what is the receiver’s', async ({
  page,
}) => {
  // Everything is built from its sources, beside other tests.
  test.setTimeout(600_000)
  const folder = mkdtempSync(join(tmpdir(), 'ask-box-dev-'))
  const port = await freePorts(5)
  const child = spawn(process.execPath, [resolve('scripts/dev.mjs')], {
    env: {
      ...process.env,
      ASKBOX_PORT: String(port),
      ASKBOX_SITES_PORT: String(port + 2),
      ASKBOX_SMTP_PORT: String(port + 3),
      ASKBOX_SERVICE_PORT: String(port + 4),
      ASKBOX_DATA: join(folder, 'data'),
      ASKBOX_MAILBOX: join(folder, 'mailbox'),
      ASKBOX_KEY: 'a'.repeat(20),
    },
    stdio: ['ignore', 'pipe', 'pipe'],
    detached: true,
  })
  let printed = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (printed += chunk))
  try {
    const origin = `http://localhost:${port}`
    const answer = (path: string) =>
      fetch(origin + path).then(
        async (response) => ({ status: response.status, text: await response.text() }),
        () => ({ status: 0, text: '' }),
      )
    // What it printed is shown where it does not come up.
    const state = async () => ((await answer('/health')).text.includes('"status":"ok"') ? 'ok' : printed)
    await expect.poll(state, { timeout: 400_000 }).toBe('ok')
    await page.goto(`${origin}/#key=${'a'.repeat(20)}`)
    await expect(page.getByRole('heading', { name: 'Forms and their lines' })).toBeVisible({ timeout: 120_000 })
    await expect(page.getByText('all saved')).toBeVisible()
    // What mails and pages lead to is the receiver's, not a screen of the workshop's.
    for (const path of ['/confirm/nobody', '/leave/nobody', '/gift/nobody', '/page/nowhere', '/file/nowhere'])
      expect([path, (await answer(path)).status]).toEqual([path, 404])
    expect((await answer('/page/firstfrost')).text).toContain('askbox')
  } finally {
    process.kill(-child.pid!, 'SIGTERM')
    await once(child, 'close')
    rmSync(folder, { recursive: true, force: true, maxRetries: 5 })
  }
})
