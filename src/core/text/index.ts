export { harmlessText, plainLine, refusedCharacter } from './text'
