/** So many parts are told apart by colour; all others are one. */
export const MOST_PARTS = 5

/**
 * Which of the colours each part has: that of its place among all there are, so that a form has the same wherever it is
 * drawn. Where two in one chart would have the same, the later takes the next that is free.
 *
 * @param shown keys of the parts of a chart, at most `MOST_PARTS`
 * @param all keys in an order that does not change, such as that of their making
 * @returns a colour's index for each, from 0
 */
export function colourPlaces(shown: readonly string[], all: readonly string[]): number[] {
  const taken = new Set<number>()
  const places = new Map<string, number>()
  // Who was there first keeps its colour, whatever is beside it.
  for (const key of shown.toSorted((one, other) => all.indexOf(one) - all.indexOf(other))) {
    let place = Math.max(0, all.indexOf(key)) % MOST_PARTS
    while (taken.has(place) && taken.size < MOST_PARTS) place = (place + 1) % MOST_PARTS
    taken.add(place)
    places.set(key, place)
  }
  return shown.map((key) => places.get(key)!)
}
