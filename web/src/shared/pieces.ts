/** A sentence with choices in it: pieces of text, and words that can be changed in place. `Made` is what a sentence says. */

export interface Choice<Made> {
  /** What it is, for those who cannot see where it stands. */
  label: string
  words: string
  options: { words: string; value: string }[]
  take(value: string): Made
}

/** A number that is typed. */
export interface NumberPiece<Made> {
  label: string
  number: string
  take(value: string): Made
}

export type Piece<Made> = string | Choice<Made> | NumberPiece<Made>

/** A choice among values, of which the present one is always one. */
export function choice<Made, Value extends string>(
  label: string,
  value: Value,
  options: readonly Value[],
  words: (value: Value) => string,
  take: (value: Value) => Made,
): Choice<Made> {
  const all = options.includes(value) ? options : [value, ...options]
  return {
    label,
    words: words(value),
    options: all.map((one) => ({ value: one, words: words(one) })),
    take: (taken) => take(taken as Value),
  }
}
