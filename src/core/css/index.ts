export { readCustomCss, type CustomCssReading } from './custom'
export { type FoundColour, paletteIn, type PaletteReading } from './palette'
