export {
  checkInstall,
  type ExpectedCode,
  type InstallFinding,
  type InstallFindingCode,
  type InstallReport,
  type PageToCheck,
} from './check'
export { mangled, type Mangling, manglings } from './manglings'
