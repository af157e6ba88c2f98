/** How Chromium is started everywhere: Debian's package, offline, with nothing of its own in the background. */
export const chromiumLaunch = {
  executablePath: process.env.CHROMIUM || '/usr/bin/chromium',
  args: [
    '--headless',
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
}
