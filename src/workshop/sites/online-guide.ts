import { handToDownloads } from '../controls'

/** The page of the documentation about going online, as a file to pass on. */
export async function saveOnlineGuide(): Promise<void> {
  const { default: text } = await import('../../../docs/going-online.md?raw')
  handToDownloads({ blob: new Blob([text], { type: 'text/markdown' }), name: 'ask-box-going-online.md' })
}
