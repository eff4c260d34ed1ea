/** Where things stand on a grid; in pixels. */

/** So many rows of dots are still told apart. */
const MOST_ROWS = 6
const DOT = 5.5
const MOST_ACROSS = 10
const FEWEST_ACROSS = 3
/** What a figure of a cell's count takes, and what stands on either side of it. */
const FIGURE = 10.2
const BESIDE = 20

/** How many dots stand beside each other, so that they leave room for the count. @param width of a cell */
export function dotsAcross(most: number, width: number): number {
  const figures = String(most).length * 1.34 - 0.34
  return Math.max(FEWEST_ACROSS, Math.min(MOST_ACROSS, Math.floor((width - BESIDE - figures * FIGURE) / DOT)))
}

/** How many records a dot stands for, so that the fullest cell has no more dots than there is room for: 1, 2, 5, 10, … @param height of a cell's room for dots */
export function dotUnit(most: number, height: number, across = MOST_ACROSS): number {
  const dots = across * Math.min(MOST_ROWS, Math.max(1, Math.floor(height / DOT)))
  let unit = 1
  for (let power = 1; ; power *= 10) {
    for (const step of [1, 2, 5]) {
      unit = step * power
      if (most / unit <= dots) return unit
    }
  }
}

/** Dots in rows, filled from the bottom right; a cell with a record in it has one. */
export function dotPath(records: number, unit: number, across = MOST_ACROSS): { path: string; width: number; height: number } {
  const dots = records === 0 ? 0 : Math.max(1, Math.round(records / unit))
  const key = `${dots} ${across}`
  const found = drawn.get(key) ?? dotsIn(dots, across)
  drawn.set(key, found)
  return found
}

/** While a cut is dragged the same few pictures come again and again. */
const drawn = new Map<string, { path: string; width: number; height: number }>()

function dotsIn(dots: number, across: number): { path: string; width: number; height: number } {
  const rows = Math.ceil(dots / across)
  const [width, height] = [across * DOT, rows * DOT]
  const path = Array.from({ length: dots }, (_, at) => {
    const x = width - DOT * ((at % across) + 0.5) - 2
    const y = height - DOT * (Math.floor(at / across) + 0.5)
    return `M${x} ${y}a2 2 0 1 0 4 0a2 2 0 1 0-4 0`
  }).join('')
  return { path, width, height }
}

/** Cells in the rectangle that two of them span. */
export function cellsBetween([a, b]: readonly [number, number], [c, d]: readonly [number, number]): [number, number][] {
  const [top, bottom, left, right] = [Math.min(a, c), Math.max(a, c), Math.min(b, d), Math.max(b, d)]
  return Array.from({ length: bottom - top + 1 }, (_, i) => Array.from({ length: right - left + 1 }, (_, j): [number, number] => [top + i, left + j])).flat()
}
