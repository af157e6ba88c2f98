/** The name of that note. */
export const ASKED = '__askboxAskedForPrograms'

/**
 * Notes that a page looks whether a program drives the browser; at wish, tells it that none does. WebDriver, section
 * "Interface".
 */
export function watchForPrograms({ isDisguised, key }: { isDisguised: boolean; key: string }): void {
  const own = Object.getOwnPropertyDescriptor(Navigator.prototype, 'webdriver')
  if (own?.get === undefined) return
  const get = function (this: Navigator): boolean {
    Object.defineProperty(globalThis, key, { value: true, configurable: true })
    return isDisguised ? false : (own.get!.call(this) as boolean)
  }
  Object.defineProperty(Navigator.prototype, 'webdriver', { ...own, get })
}
