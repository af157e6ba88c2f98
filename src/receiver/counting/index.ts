export { Counting, isCounted } from './counting'
