export { useHeldMessages, useMessageCount } from './held'
