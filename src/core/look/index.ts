export { type Look, lookSchema, plainLook } from './look'
export { isDark, mix } from './colour'
