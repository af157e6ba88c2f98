export { type ClockJob, forgetLeases, runJobs } from './jobs'
export { type Clock, type Leap, openClock } from './wall-clock'
