/** What is alike together, in the order in which the first of each kind is met. */
export function grouped<One, Key>(all: Iterable<One>, by: (one: One) => Key): Map<Key, One[]> {
  const groups = new Map<Key, One[]>()
  for (const one of all) {
    const group = groups.get(by(one))
    if (group) group.push(one)
    else groups.set(by(one), [one])
  }
  return groups
}
