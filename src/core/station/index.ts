export { type Station, stationNames, stations } from './stations'
