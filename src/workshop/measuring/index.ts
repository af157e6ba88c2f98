export { useMeasures } from './measure'
