import { type CssNode, parse, type ParseOptions } from 'css-tree'

/** One more than the tokens that any text so far can have had. */
let most = 0

/**
 * Reads a style sheet with css-tree. Its tokenizer keeps one buffer for all texts and may read the entry at the text's
 * length, which an earlier, longer text has left there: for some texts it then never ends (css-tree 3.2.1, TokenStream's
 * `setSource`; found by random texts). Spaces at the end, one token however many, bring that entry beyond all used ones.
 */
export function parseSheet(text: string, options: ParseOptions = {}): CssNode {
  most = Math.max(most, text.length + 2)
  return parse(text.padEnd(most + 1), options)
}
