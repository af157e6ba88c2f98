export { useOnward } from './onward'
export { useOutside } from './outside'
export { reasonFor, troubleOf, wayNames, whereTo } from './words'
