/** The cells of a column on their way into it. */
/** A value in canonical text, null for a blank, or the text that could not be read. */
export type Cell = string | null | { unreadable: string }

/** Hands each value to `set`. @returns the texts that could not be read, by place */
export function fillColumn(cells: readonly Cell[], set: (at: number, text: string) => void): Map<number, string> {
  const unreadable = new Map<number, string>()
  cells.forEach((cell, at) => {
    if (typeof cell === 'string') set(at, cell)
    else if (cell) unreadable.set(at, cell.unreadable)
  })
  return unreadable
}
