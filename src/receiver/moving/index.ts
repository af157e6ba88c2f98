export { movedTo, Mover } from './mover'
