export { useLetters } from './store'
export { stateWords, useSendings, useSendingWords } from './sendings'
