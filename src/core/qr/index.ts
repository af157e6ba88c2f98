export { qrModules, qrSvg } from './qr'
