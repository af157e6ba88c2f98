export { addressesIn, ofPeople } from './marks'
export { withoutPeople } from './without-people'
