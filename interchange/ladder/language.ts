/** What the ladder of a gate needs of a language that it is written in. */

/** A piece of text in that language, and whatever else its own code keeps with it. */
export interface Piece {
  text: string
}

export interface When<P extends Piece> {
  when: P
  then: P
}

export interface Language<P extends Piece> {
  yes: P
  no: P
  /** No value at all. */
  nothing: P
  all(parts: readonly P[]): P
  any(parts: readonly P[]): P
  number(value: number): P
  quoted(text: string): P
  /** What stands with the first condition that is true. */
  cases(whens: readonly When<P>[], otherwise: P): P
  /** The choice that `selector` numbers, from 1; `otherwise` where it is 0. */
  numbered(selector: P, choices: readonly P[], otherwise: P): P
  /** Whether two values are different; null is the same as null. */
  areDistinct(a: P, b: P): P
}

export function isSame(a: Piece, b: Piece): boolean {
  return a.text === b.text
}
