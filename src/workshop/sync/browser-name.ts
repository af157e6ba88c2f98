/** Names of browsers in their own words, the more particular first: most say several. Common practice, no source. */
const BROWSERS: readonly (readonly [RegExp, string])[] = [
  [/\bEdg(?:e|A|iOS)?\//, 'Edge'],
  [/\bOPR\//, 'Opera'],
  [/\bFirefox\/|\bFxiOS\//, 'Firefox'],
  [/\b(?:Headless)?Chrom(?:e|ium)\/|\bCriOS\//, 'Chromium or Chrome'],
  [/\bSafari\//, 'Safari'],
]
const SYSTEMS: readonly (readonly [RegExp, string])[] = [
  [/\b(?:iPhone|iPad|iPod)\b/, 'iOS'],
  [/\bAndroid\b/, 'Android'],
  [/\bWindows\b/, 'Windows'],
  [/\bMac OS X\b/, 'a Mac'],
  [/\bLinux\b|\bX11\b/, 'Linux'],
]

/** What an owner knows a browser by: “Firefox on Linux”. */
export function browserName(userAgent: string): string {
  const named = (all: typeof BROWSERS, other: string) => all.find(([pattern]) => pattern.test(userAgent))?.[1] ?? other
  return `${named(BROWSERS, 'A browser')} on ${named(SYSTEMS, 'a computer')}`
}
