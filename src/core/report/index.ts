export { proofXml } from './junit'
export { CLIENT_DAYS, type ClientFacts, clientPage } from './client'
export { type ReportPart, resultsPage } from './results'
export { proofPage, type ProofNames } from './page'
