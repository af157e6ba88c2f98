export { checkInstall } from './check'
export { mangled, type Mangling, manglings } from './manglings'
export type { ExpectedCode, InstallFinding, InstallFindingCode, InstallReport, PageToCheck } from './report'
export { codeThatSurvives } from './cure'
