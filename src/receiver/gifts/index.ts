export { type Downloads, openDownloads } from './downloads'
export { GiftFiles, type KeptFile } from './files'
