export { type GrowthRow, type HourRow, PeopleCounter, type PeopleResults, type SignUpRow } from './people'
export { type Delays, type LookedAt, type ComingsAndGoings, comingsAndGoings } from './people-results'
export { growthDays, growthSpans, type GrowthSpan, isByMonth } from './growth'
export { quietWords, rhythmOf, type Rhythm, weekWords } from './quiet'
export { behindBest, type Count, difference, type Interval, isTooEarly, rateWords, wilson, Z_95 } from './rate'
export {
  type Beacon,
  beaconSchema,
  type Device,
  deviceOf,
  devices,
  type SeenHour,
  seenHourSchema,
  type SeenRow,
  seenRowSchema,
} from './seen'
export { type Looked, type ResultKey, type ResultLine, resultLines, wholeWay } from './table'
export { UNUSED_DAYS, unusedForms } from './unused'
export { dayAfter, daysFrom, localTime, weekdayOf } from './time'
