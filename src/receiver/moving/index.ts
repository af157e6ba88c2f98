export { databaseMovedTo, movedTo, Mover } from './mover'
