export { checkup, type CheckupSubject, type Finding, type Station, stations } from './checkup'
