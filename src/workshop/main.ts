import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './shell/App.vue'
import { database, forgetUnknownEntries, isDemo } from './data'
import { pairFromAddress } from './sync'
import { fillDemo } from './shell/demo'
import { keepForOffline } from './shell/offline'
import { makeRouter } from './shell/router'
import { useNotices } from './notices'
import { usePairing } from './pairing'
import './styles/tokens.css'
import './styles/base.css'
import './styles/element'

const COPY_AFTER_MS = 2_000

/** A function of its own: what is loaded while this waits may need this very file, which an `await` outside would hold up. */
async function start(): Promise<void> {
  if (isDemo) await fillDemo().catch(console.error)
  const offer = isDemo ? { result: 'none' as const } : await pairFromAddress(location, history)

  const app = createApp(App).use(createPinia()).use(makeRouter())
  // What no part of the workshop expected is still said to the owner, who may have thought it was done.
  const tell = (error: unknown) => {
    console.error(error)
    useNotices().problem(`That did not work: ${error instanceof Error ? error.message : String(error)}`)
  }
  app.config.errorHandler = tell
  addEventListener('unhandledrejection', (event) => {
    event.preventDefault()
    tell(event.reason)
  })
  usePairing().offer = offer
  // An address that pairs, opened in a tab where the workshop is already, changes nothing but the fragment.
  addEventListener('hashchange', () => {
    if (!isDemo && /^#(?:pair|key)=/.test(location.hash)) location.reload()
  })
  app.mount('#workshop')
}
void start()

// A newer version in another tab takes the database over; this one opens it again as it is then.
database.on('versionchange', () => {
  database.close({ disableAutoOpen: false })
  return false
})
void forgetUnknownEntries()

// The copy waits until the first screen is long there. Without one the workshop still works while the
// receiver answers, so a failure here is no news.
if (import.meta.env.PROD) setTimeout(() => void keepForOffline().catch(() => {}), COPY_AFTER_MS)
