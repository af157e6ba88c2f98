export { readCustomCss, type CustomCssReading } from './custom'
export { rulesHeld, type State, statesIn } from './states'
export { type FoundColour, paletteIn, type PaletteReading } from './palette'
export { parseSheet } from './parse'
