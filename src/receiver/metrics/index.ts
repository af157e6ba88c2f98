export { Metrics, type SignUpOutcome } from './metrics'
