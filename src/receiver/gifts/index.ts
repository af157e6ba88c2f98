export { type Downloads, openDownloads } from './downloads'
export { GiftFiles, type KeptFile } from './files'
export { openSharedFiles, type SharedFiles } from './shared-files'
