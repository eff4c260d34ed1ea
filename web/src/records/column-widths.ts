/** How wide the columns of a list are: measured once for the list, so that every row stands under the heads. */

export interface MeasuredColumn {
  /** What its head says. */
  head: string
  /** Numbers and dates are never wrapped, and cut off only where they are very long. */
  isFigure: boolean
  /** Texts of some of its cells. */
  cells: readonly string[]
  /** What the head needs at least, in pixels. */
  least: number
}

/** About so many pixels a character takes in the list's type. */
const CHARACTER = { figure: 9, text: 7.6 }
/** Numbers of houses and trees are texts, and as wide as figures. */
const NUMBERS = /^[\d\s.,/-]+$/
const HEAD_CHARACTER = 7.2
const MOST = { figure: 260, text: 300 }
const GAP = 16
const MARGINS = 40

export interface ColumnWidth {
  pixels: number
  isFigure: boolean
}

/** What the head and the cells of a column need, up to a limit. */
export function widthOf({ head, isFigure, cells, least }: MeasuredColumn): ColumnWidth {
  // One long text among many must not make its column wide: nine in ten fit.
  const lengths = cells.map((text) => text.length * (isFigure || NUMBERS.test(text) ? CHARACTER.figure : CHARACTER.text)).toSorted((a, b) => a - b)
  const wanted = lengths[Math.floor(lengths.length * 0.9)] ?? 0
  const pixels = Math.round(Math.max(least, 56, Math.min(head.length * HEAD_CHARACTER, 150), Math.min(wanted + 6, isFigure ? MOST.figure : MOST.text)))
  return { pixels, isFigure }
}

/**
 * Widths as a grid's template: each column has what it needs, and a share of what is left over.
 * @returns the template, and the pixels under which the list scrolls sideways
 */
export function gridOf(widths: readonly ColumnWidth[]): { template: string; least: number } {
  return {
    template: widths.map(({ pixels, isFigure }) => `minmax(${pixels}px, ${isFigure ? pixels * 0.5 : pixels}fr)`).join(' '),
    least: widths.reduce((sum, { pixels }) => sum + pixels, 0) + GAP * Math.max(0, widths.length - 1) + MARGINS,
  }
}
