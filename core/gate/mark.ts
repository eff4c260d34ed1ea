/** The small shapes that stand for labels beside their colours; each has an outline of its own. */
export const MARKS = ['disc', 'drop', 'square', 'kite', 'cross', 'peak', 'ring', 'leaf', 'bar', 'star'] as const
export type Mark = (typeof MARKS)[number]

/** The mark for the `index`-th label of a gate; they repeat when all are used. */
export function markFor(index: number): Mark {
  return MARKS[index % MARKS.length]!
}
