export { proofXml } from './junit'
export { proofPage, type ProofNames } from './page'
