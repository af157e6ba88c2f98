/** A file of people as owners have them: other names, odd dates, slips, doubles, people who left. Made up, the same each time. */
export function messyFile(rows: number): string {
  const first = ['Ada', 'Bea', 'Çem', 'Zoë', 'Eve "Evi"', 'O’Hara', 'Łukasz', '=Mia']
  const towns = ['Ely', 'Rye; East', '"Quarry" hill', 'Sankt Peter', '']
  const lines = ['Nr;Contact;Vorname;Lives in;Joined on;State;Groups']
  for (let at = 1; at <= rows; at += 1) {
    const day = `${String((at % 28) + 1).padStart(2, '0')}.${String((at % 12) + 1).padStart(2, '0')}.2024`
    const address =
      at % 97 === 0
        ? `person${at - 1}@Messy.example`
        : at % 131 === 0
          ? `person${at}@gmial.com`
          : at % 211 === 0
            ? `person ${at} at messy.example`
            : `person${at}@messy.example`
    const cells = [
      String(at),
      address,
      first[at % first.length]!,
      towns[at % towns.length]!,
      day,
      at % 59 === 0 ? 'unsubscribed' : 'active',
      at % 5 === 0 ? 'school, night' : '',
    ]
    lines.push(cells.map((cell) => (/[;"\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell)).join(';'))
  }
  return `${lines.join('\r\n')}\r\n`
}
