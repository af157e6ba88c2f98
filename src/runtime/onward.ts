/*
 * Leads out of a frame, as far as the page around it lets it: its sandbox is known only by trying. Fetched by the visitors'
 * script for a form in a frame that is answered by a page of the owner's; on our own pages in frames, for their links.
 */

/** Goes on in the whole window. @returns whether the page around the frame lets it */
export function leave(address: string): boolean {
  try {
    top!.location.href = address
    return true
  } catch {
    return false
  }
}

/** Makes a link lead to the whole window, else to a window of its own, else to where it stands. */
export function lead(link: HTMLAnchorElement): void {
  link.addEventListener('click', (event) => {
    event.preventDefault()
    if (leave(link.href)) return
    const opened = open(link.href, '_blank')
    if (opened === null) location.assign(link.href)
    else opened.opener = null
  })
}

/** Makes a link that was to open a window of its own lead to the whole one, else to where it stands, where none may be opened. */
export function openBeside(link: HTMLAnchorElement): void {
  link.addEventListener('click', (event) => {
    event.preventDefault()
    const opened = open(link.href, '_blank')
    if (opened !== null) opened.opener = null
    else if (!leave(link.href)) location.assign(link.href)
  })
}

for (const link of document.querySelectorAll<HTMLAnchorElement>('a.askbox-onward')) lead(link)
