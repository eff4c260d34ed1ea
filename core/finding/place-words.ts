/** A rule as people count: `rule 3`, `band 2`, `cell 1.4`. @param path where it stands in the gate's document, as in `rules.2` */
export function placeWords(path: string): string {
  return path.replace(/^(\w+?)s\./, '$1 ').replace(/\d+/g, (place) => String(Number(place) + 1))
}

export function listed(names: readonly string[], word: 'and' | 'or'): string {
  return names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} ${word} ${names.at(-1)}`
}
