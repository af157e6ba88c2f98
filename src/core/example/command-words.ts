import { parse } from 'shell-quote'

/** A command that stands in a text, as a shell would split it. */
export interface Command {
  /** Its words, the program's name first. `$NAME` stays as it is written. */
  words: string[]
  /** Where it stands in the text, in UTF-16 units; the end is behind it. */
  start: number
  end: number
  /** What of it was not read, in words. */
  unread: string[]
}

/** Longest command that is read, in UTF-16 units. */
const LONGEST = 100_000
const PLACEHOLDER = /^<[\w.\- ]{1,60}>/

/**
 * Reads one command line that begins at a place of a text and goes on to the first line end that is neither quoted nor
 * behind a backslash (or a caret, as Windows has it). Words are split as POSIX shells do (IEEE Std 1003.1-2017, Shell
 * Command Language, 2.2 and 2.3) by `shell-quote`; nothing is run or looked up.
 */
export function commandAt(text: string, start: number): Command {
  const { line, end, hereDocument } = logicalLine(text, start)
  const unread: string[] = []
  if (hereDocument !== null)
    unread.push(`the lines up to “${hereDocument}” (a here-document): put what stands there behind -d`)
  const words: string[] = []
  let isSkipping = false
  for (const entry of parse(line, (name) => `$${name}`)) {
    if (typeof entry === 'string') {
      if (isSkipping) isSkipping = false
      else words.push(entry)
      continue
    }
    if ('comment' in entry) break
    if (entry.op === 'glob') words.push(entry.pattern)
    else if (['<', '<<', '<<-', '<<<', '>', '>>', '>&'].includes(entry.op)) {
      // The number of what is redirected: 2>/dev/null.
      if (/^\d$/.test(words.at(-1) ?? '') && line.includes(`${words.at(-1)!}${entry.op}`)) words.pop()
      isSkipping = true
    } else {
      if (entry.op === '&' && /^https?:/.test(words.at(-1) ?? ''))
        unread.push('what stands behind “&” in an address without quotes: a shell ends the command there')
      break
    }
  }
  if (/\$\(|(?<!\\)`/.test(line)) unread.push('what a command in “$(…)” or “`…`” would write')
  return { words, start, end, unread }
}

/** Lines that belong together, as one; what a shell and its package see differently is escaped. */
function logicalLine(text: string, start: number): { line: string; end: number; hereDocument: string | null } {
  let line = ''
  let quote: '' | '"' | "'" | "$'" = ''
  let at = start
  const last = Math.min(text.length, start + LONGEST)
  for (; at < last; at++) {
    const character = text[at]!
    if (quote === '') {
      const continuation = /^[\\^][ \t]*\r?\n/.exec(text.slice(at, at + 40))
      if (continuation !== null) {
        line += ' '
        at += continuation[0].length - 1
        continue
      }
      if (character === '\n') break
      if (character === '\\') {
        line += character + (text[++at] ?? '')
        continue
      }
      if (character === '#' && /\S/.test(line.at(-1) ?? ' ')) {
        line += '\\#'
        continue
      }
      // Documentation writes what is to be put in so; a shell would take it for files.
      const placeholder = character === '<' ? PLACEHOLDER.exec(text.slice(at, at + 64))?.[0] : undefined
      if (placeholder !== undefined) {
        line += `'${placeholder}'`
        at += placeholder.length - 1
        continue
      }
      if (character === '"' || character === "'") quote = character === "'" && line.endsWith('$') ? "$'" : character
    } else if ((quote === '"' || quote === "$'") && character === '\\') {
      const isJoined = quote === '"' && text[at + 1] === '\n'
      if (!isJoined) line += character + (text[at + 1] ?? '')
      at += 1
      continue
    } else if (character === quote.at(-1)) quote = ''
    line += character
  }
  const mark = /<<-?\s*(['"]?)([A-Za-z_]\w*)\1/.exec(line)?.[2] ?? null
  if (mark === null) return { line: line.replace(/\r$/, ''), end: at, hereDocument: null }
  const rest = text.slice(at)
  const closing = new RegExp(`\\n[ \\t]*${mark}[ \\t]*(?:\\r?\\n|$)`).exec(rest)
  return {
    line,
    end: closing === null ? text.length : at + closing.index + closing[0].trimEnd().length,
    hereDocument: mark,
  }
}
