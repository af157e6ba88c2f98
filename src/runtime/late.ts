/*
 * Fetched by the visitors' script where it comes after the room of its place was given back.
 */

/** Resolves when the link lies below what is seen, or with true when it is pressed, which then shows the form in its place. */
export function outOfSight(link: HTMLAnchorElement): Promise<boolean> {
  return new Promise((resolve) => {
    const watch = new IntersectionObserver(([entry]) => {
      if (entry!.boundingClientRect.top >= innerHeight) end(false)
    })
    const press = (event: MouseEvent) => {
      if (event.ctrlKey || event.metaKey || event.shiftKey || event.altKey) return
      event.preventDefault()
      end(true)
    }
    const end = (isPressed: boolean) => {
      watch.disconnect()
      link.removeEventListener('click', press)
      resolve(isPressed)
    }
    watch.observe(link)
    link.addEventListener('click', press)
  })
}
