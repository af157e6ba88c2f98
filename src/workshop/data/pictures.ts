import { defineStore } from 'pinia'
import type { Picture, PictureUse } from '#core/picture'
import { useWorkspace } from './workspace'

/** Where the pictures in this browser are found by its pages. An address is made once and holds as long as the tab. */
export const usePictures = defineStore('pictures', () => {
  const workspace = useWorkspace()
  const addresses = new Map<string, string>()

  function addressOf({ id }: Pick<PictureUse, 'id'>): string {
    const picture = workspace.pictures.find((one) => one.id === id)
    if (picture === undefined) return ''
    const address = addresses.get(id)
    if (address !== undefined) return address
    const made = URL.createObjectURL(blobOf(picture))
    addresses.set(id, made)
    return made
  }
  return { addressOf }
})

export function blobOf({ bytes, type }: Picture): Blob {
  return new Blob([Uint8Array.from(atob(bytes), (character) => character.charCodeAt(0))], { type })
}
