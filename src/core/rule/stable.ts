/** States that scripts set and take away. */
const STATE =
  /^(?:is|has|js|no|was|not)-|(?:^|[-_])(?:active|open|opened|closed|hover|hovered|focus|focused|selected|current|visible|hidden|loaded|loading|lazy|lazyload|lazyloaded|animated|sticky|stuck|scrolled|in-view|show|shown|first|last|odd|even|alt)$/i
/** What builders number: widgets, posts, blocks. */
const NUMBERED = /\d{2,}|(?:^|[-_])\d+$/
/** Prefixes of style tools that make names of hashes, and the hash at the end of a module's class. */
const MADE =
  /^(?:css|sc|jsx|jss|emotion|svelte|astro|data-v|chakra|mui|makestyles|ember|react|radix|headlessui|yui|ext-gen|__)[-_]?[a-z0-9]*\d|__[a-z0-9]+(?:_[a-z0-9]+)*-[A-Za-z0-9]{5,}$/i
/** Classes that say how something looks, as utility style packages have them. */
const LOOKS =
  /[:/[\]!%]|^-|^(?:m|p|w|h|g|d|mt|mb|ml|mr|mx|my|pt|pb|pl|pr|px|py|min|max|gap|text|bg|border|rounded|shadow|flex|grid|col|row|items|justify|font|leading|tracking|space|order|float|align|z|top|left|right|bottom)-|^(?:flex|grid|block|inline|relative|absolute|fixed|static|container|row|col|clearfix|clear|left|right|center|wide|full)$/

/** Whether an id or class can be trusted to be there, and to mean the same, after the page is made anew. */
export function isStableName(name: string): boolean {
  if (name.length < 2 || name.length > 40 || !/^[A-Za-z][\w-]*$/.test(name)) return false
  return !(STATE.test(name) || NUMBERED.test(name) || MADE.test(name) || LOOKS.test(name) || looksRandom(name))
}

/** A part with small and capital letters or digits mixed as nobody writes: `x7fK2`, `bZkPq`. */
function looksRandom(name: string): boolean {
  return name.split(/[-_]/).some((part) => {
    const kinds = [...part].map((one) => (/\d/.test(one) ? 'digit' : /[A-Z]/.test(one) ? 'capital' : 'small'))
    // Words begin with a capital: that is no change.
    const changes = kinds.filter(
      (kind, at) => at > 0 && kind !== kinds[at - 1] && !(kind === 'small' && kinds[at - 1] === 'capital'),
    ).length
    const vowels = part.match(/[aeiouy]/gi)?.length ?? 0
    return (changes >= 3 && part.length < 4 * changes) || (part.length >= 6 && vowels === 0)
  })
}
