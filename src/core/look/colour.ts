/** sRGB channels of `#rrggbb`, each 0 to 255. */
function channels(hex: string): [number, number, number] {
  const value = Number.parseInt(hex.slice(1), 16)
  return [(value >> 16) & 255, (value >> 8) & 255, value & 255]
}

/** `share` of `over` (0 to 1) laid on `under`, both `#rrggbb`: simple alpha compositing, CSS Compositing Level 1 section 5.1. */
export function mix(over: string, under: string, share: number): string {
  const below = channels(under)
  return `#${channels(over)
    .map((channel, at) => Math.round(channel * share + (below[at] ?? 0) * (1 - share)))
    .map((channel) => channel.toString(16).padStart(2, '0'))
    .join('')}`
}

/** Relative luminance, WCAG 2.2. 0 is black, 1 is white. */
export function luminance(hex: string): number {
  const [red, green, blue] = channels(hex).map((channel) => {
    const share = channel / 255
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4
  }) as [number, number, number]
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue
}

/** Whether white text reads better on it than black: the luminance at which both contrasts are equal. */
export function isDark(hex: string): boolean {
  return luminance(hex) < Math.sqrt(1.05 * 0.05) - 0.05
}
