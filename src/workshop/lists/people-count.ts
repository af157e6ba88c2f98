/** “1 person”, “12 people”. */
export function peopleCount(count: number): string {
  return count === 1 ? '1 person' : `${count.toLocaleString('en')} people`
}
