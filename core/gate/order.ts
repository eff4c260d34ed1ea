/** Things that need others, in an order in which each comes after all that it needs. */

export type Order = { order: string[] } | { loop: string[] }

/**
 * @param needs the names that a name needs; names that are not among `names` do not count
 * @returns the order, or the members of a loop, each needing the next and the last the first
 */
export function dependencyOrder(names: readonly string[], needs: (name: string) => readonly string[]): Order {
  const known = new Set(names)
  const order: string[] = []
  const done = new Set<string>()
  for (const start of names) {
    // A path with the needs still to be visited at each step, in place of the machine's stack.
    const path: { name: string; left: string[] }[] = []
    const onPath = new Set<string>()
    const enter = (name: string) => {
      path.push({ name, left: needs(name).filter((need) => known.has(need)) })
      onPath.add(name)
    }
    if (!done.has(start)) enter(start)
    while (path.length > 0) {
      const last = path.at(-1)!
      const next = last.left.shift()
      if (next === undefined) {
        done.add(last.name)
        order.push(last.name)
        onPath.delete(last.name)
        path.pop()
        continue
      }
      if (done.has(next)) continue
      if (onPath.has(next)) return { loop: path.slice(path.findIndex(({ name }) => name === next)).map(({ name }) => name) }
      enter(next)
    }
  }
  return { order }
}
