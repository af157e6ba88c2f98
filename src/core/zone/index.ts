export { dayIn, isZone, momentIn } from './zone'
