export { hasPassed } from './passed'
export { type Clock, type Leap, openClock } from './wall-clock'
