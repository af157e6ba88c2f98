import { z } from 'zod'
import { addressesIn } from '#core/privacy'
import { letterIdSchema, listIdSchema, spotIdSchema } from '#core/ids'
import { filterSchema } from '#core/list'
import { pictureUseSchema } from '#core/picture'
import { harmlessText, type RichText, richTextSchema } from '#core/text'

const line = harmlessText.max(500)
/** As typed: the look at a letter says whether it can be followed, and what cannot is drawn without a link. */
const address = harmlessText.max(2_000)
const shared = { id: z.string().regex(/^[a-z0-9]{2,32}$/) }

const words = z.strictObject({
  ...shared,
  kind: z.literal('words'),
  as: z.enum(['text', 'title', 'heading', 'quote']),
  text: richTextSchema,
})
const picture = z.strictObject({
  ...shared,
  kind: z.literal('picture'),
  /** One of the owner's own; null where `address` names it, or where none is chosen yet. */
  picture: pictureUseSchema.nullable(),
  address,
  /** What it shows, for whoever does not see it. */
  alt: line,
  link: address,
  /** How much of its place it takes. */
  width: z.enum(['full', 'half', 'small']),
})
const button = z.strictObject({ ...shared, kind: z.literal('button'), words: line, link: address })
const rule = z.strictObject({ ...shared, kind: z.literal('rule') })
/** @property height in CSS pixels */
const space = z.strictObject({ ...shared, kind: z.literal('space'), height: z.int().min(4).max(120) })
/** What a form says, and the way to its page. */
const offer = z.strictObject({
  ...shared,
  kind: z.literal('offer'),
  spot: spotIdSchema.nullable(),
  heading: line,
  text: richTextSchema,
  button: line,
})
const inColumn = z.discriminatedUnion('kind', [words, picture, button])
/** Beside each other, and below each other on phones. */
const columns = z.strictObject({
  ...shared,
  kind: z.literal('columns'),
  left: z.array(inColumn).max(20),
  right: z.array(inColumn).max(20),
})

export const letterBlockSchema = z.discriminatedUnion('kind', [words, picture, button, rule, space, offer, columns])
export type LetterBlock = z.infer<typeof letterBlockSchema>
export type BlockInColumn = z.infer<typeof inColumn>
export type LetterBlockKind = LetterBlock['kind']
export const blockKinds = ['words', 'picture', 'button', 'columns', 'offer', 'rule', 'space'] as const

/** What a letter says. */
export const letterBodySchema = z.strictObject({
  /** One paragraph without formats. */
  subject: richTextSchema,
  /** What inboxes show beside the subject; empty for the letter's first words. */
  preview: line,
  /** Whether it goes as plain text alone. */
  isPlain: z.boolean(),
  blocks: z.array(letterBlockSchema).max(200),
})
export type LetterBody = z.infer<typeof letterBodySchema>

/** Who of its lists gets a letter: all who are on them, or those of whom a filter holds. */
export const letterReadersSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('everybody') }),
  z.strictObject({ kind: z.literal('filter'), name: addressesIn(line), filter: filterSchema }),
])
export type LetterReaders = z.infer<typeof letterReadersSchema>

/** A letter as its owner works on it. */
export const letterContentSchema = letterBodySchema.extend({
  /** The first decides on sender, look and language. An inbox on several of them gets it once. None while it is not said. */
  lists: z.array(listIdSchema).max(100),
  readers: letterReadersSchema,
  /** Whether it is among the letters that anybody can read on the receiver's page of them. */
  isInArchive: z.boolean(),
  /** Whether presses of its links are counted, in sums, which the letter then says. */
  countsLinks: z.boolean(),
})
export type LetterContent = z.infer<typeof letterContentSchema>

export const letterSchema = z.strictObject({
  id: letterIdSchema,
  createdAt: z.iso.datetime(),
  draft: letterContentSchema,
  isArchived: z.boolean().optional(),
})
export type Letter = z.infer<typeof letterSchema>

/** All blocks, those in columns too. */
export function allBlocks(blocks: readonly LetterBlock[]): LetterBlock[] {
  return blocks.flatMap((block): LetterBlock[] =>
    block.kind === 'columns' ? [block, ...block.left, ...block.right] : [block],
  )
}

/** Every rich text of a body, its subject first. */
export function textsIn({
  subject,
  blocks,
}: Pick<LetterBody, 'subject' | 'blocks'>): { block: string; text: RichText }[] {
  return [
    { block: 'subject', text: subject },
    ...allBlocks(blocks).flatMap((block) =>
      block.kind === 'words' || block.kind === 'offer' ? [{ block: block.id, text: block.text }] : [],
    ),
  ]
}

/** Ids of the owner's pictures in it. */
export function picturesOf({ blocks }: Pick<LetterBody, 'blocks'>): string[] {
  return [
    ...new Set(
      allBlocks(blocks).flatMap((block) =>
        block.kind === 'picture' && block.picture !== null ? [block.picture.id as string] : [],
      ),
    ),
  ]
}
