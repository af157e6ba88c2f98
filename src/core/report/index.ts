export { proofXml } from './junit'
export { type ReportPart, resultsPage } from './results'
export { proofPage, type ProofNames } from './page'
