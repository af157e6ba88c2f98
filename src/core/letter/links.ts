import { linksIn } from '#core/text'
import { allBlocks, type LetterBody, textsIn } from './letter'

/** A web address that a letter leads to, and the block that it stands in first. */
export interface LetterLink {
  address: string
  block: string
}

const isWeb = (address: string) => /^https?:\/\/\S+$/i.test(address)

/** Each web address that a letter leads to, once, in the order in which they stand in it. */
export function linksOfLetter(body: Pick<LetterBody, 'subject' | 'blocks'>): LetterLink[] {
  const found = new Map<string, LetterLink>()
  const add = (address: string, block: string) => {
    if (isWeb(address) && !found.has(address)) found.set(address, { address, block })
  }
  const texts = new Map(textsIn(body).map(({ block, text }) => [block, text]))
  for (const block of allBlocks(body.blocks)) {
    for (const address of linksIn(texts.get(block.id) ?? [])) add(address, block.id)
    if (block.kind === 'button' || block.kind === 'picture') add(block.link.trim(), block.id)
  }
  return [...found.values()]
}
