/**
 * Gates in an order in which each comes after those that feed it, and else as they came. What feeds itself, by way of others, stands where it came.
 * @param keys what the gates are told by @param feeding by gate those that feed it; others than these count for nothing
 */
export function inFeedingOrder<Key>(keys: readonly Key[], feeding: (key: Key) => readonly Key[]): Key[] {
  const known = new Set(keys)
  const ordered = new Set<Key>()
  const begun = new Set<Key>()
  const place = (key: Key) => {
    if (begun.has(key)) return
    begun.add(key)
    for (const before of feeding(key)) if (known.has(before)) place(before)
    ordered.add(key)
  }
  keys.forEach(place)
  return [...ordered]
}
