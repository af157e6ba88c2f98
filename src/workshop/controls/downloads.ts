/** Hands a file to the browser's downloads. Whether it arrives there, only its owner can see. */
export function handToDownloads({ blob, name }: { blob: Blob; name: string }): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(blob)
  link.download = name
  link.click()
  // A large file is read from here while it is being saved.
  setTimeout(() => URL.revokeObjectURL(link.href), 600_000)
}
