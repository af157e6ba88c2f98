import { onMounted, ref, shallowRef } from 'vue'
import type { KeyGrant, OpenAddress, Opening, Openings, OwnersKey } from '#core/api'
import { clientFor, type Client } from '../client'
import { useNotices } from '../notices'
import { useReceiver } from '../sync'

/** Whatever opens the house, as the receiver lists it, and the ways to shut it. */
export function useOpenings() {
  const receiver = useReceiver()
  const notices = useNotices()
  const all = shallowRef<Openings | null>(null)
  /** Id of what is asked about once more before it is shut. */
  const isSure = ref<string | null>(null)
  const client = () => (receiver.pairing === null ? null : clientFor({ ...receiver.pairing }))
  function clientNow(): Client {
    const asked = client()
    if (asked === null) throw new Error('Ask Box does not answer just now.')
    return asked
  }
  const read = () =>
    client()
      ?.keys()
      .then(
        (found) => void (all.value = found),
        () => {},
      )
  onMounted(read)

  /** Does it, takes what is left, and says so. */
  async function change(work: (client: Client) => Promise<Openings | null>, done: string): Promise<boolean> {
    const asked = client()
    isSure.value = null
    if (asked === null) return false
    try {
      const left = await work(asked)
      if (left === null) await read()
      else all.value = left
      notices.done(done)
      return true
    } catch (error) {
      notices.problem(`Not done: ${error instanceof Error ? error.message : 'no answer'}`)
      return false
    }
  }

  async function make(grant: KeyGrant) {
    try {
      return (await client()?.newPairingAddress(grant)) ?? null
    } catch (error) {
      notices.problem(`Not done: ${error instanceof Error ? error.message : 'no answer'}`)
      return null
    }
  }

  return {
    ...{ all, isSure, read, make },
    /** Both throw what keeps them from it, in words. */
    saveLinks: async (passphrase: string) => (await clientNow().saveLinkKeys(passphrase)).sealed,
    openLinks: async (sealed: string, passphrase: string) => {
      all.value = await clientNow().openLinkKeys({ sealed: sealed.trim(), passphrase })
      notices.done('The key of links is back: links that it marked work.')
    },
    withdraw: ({ id, name }: OwnersKey) =>
      change(
        (asked) => asked.withdrawKey(id),
        `${name} is out from now on. That browser empties itself when it next asks.`,
      ),
    shut: ({ id }: OpenAddress) => change((asked) => asked.shutAddress(id), 'That address lets nobody in any more.'),
    shutPage: ({ id, name }: Opening) =>
      change(
        (asked) => asked.withdrawClientPage(id).then(() => null),
        `“${name}” is withdrawn: its address leads nowhere now.`,
      ),
    renewService: ({ id, name }: Opening) =>
      change(
        (asked) => asked.makeServiceAddressAnew(id),
        `The address that ${name} calls is another now. Copy it there from the connection; the one of before works no more.`,
      ),
    renewLinks: () =>
      change(
        (asked) => asked.makeLinkKeyAnew(),
        'The key of links is another now. Links of before are good for leaving, and for nothing else.',
      ),
  }
}
export type OpeningsInHand = ReturnType<typeof useOpenings>
