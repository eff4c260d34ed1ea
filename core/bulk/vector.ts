/** Doubles of a whole column with a bound of their error. */
import type { Node } from '../expression/tree'
import type { Bitmap } from '../table/bitmap'
import type { DateValue } from '../value/value'

/** Days are counted from 1970-01-01, lengths of time in seconds, or in months. */
export type VectorKind = 'number' | 'date' | 'days and time duration' | 'years and months duration'

export interface NumberVector {
  readonly length: number
  readonly kind: VectorKind
  /** Near the decimal result; meaningless where `valid` says no. */
  readonly doubles: Float64Array
  /**
   * No decimal result lies further away than this; 0 where the double is the nearest to its decimal and stands for it, as
   * 0.1 stands for the decimal 0.1; null where that is so of all but those in `inexact`. Infinite where nothing can be said.
   */
  readonly errors: Float64Array | null
  readonly valid: Bitmap
  /** Of nearest doubles, the records whose decimals they do not stand for exactly. */
  readonly inexact: ReadonlyMap<number, unknown>
  /** Of a greatest or least value, what it is at least, or at most, where some of its parts are missing; NaN where nothing is known. */
  readonly bounds?: Float64Array
}

/** Half a unit in the last place, relative: what rounding to the nearest double may cost. */
export const UNIT = 2 ** -53

/** Results this small may have lost digits to underflow, and results this large are near the end of the doubles. */
export const SMALLEST = 1e-290

export const LARGEST = 1e290

export const NONE_INEXACT: ReadonlyMap<number, unknown> = new Map()

/** How far a decimal can lie from its double, as it counts in what is reckoned from it: nothing only for whole numbers that fit into a double. */
export function errorAt({ doubles, errors, inexact }: NumberVector, at: number): number {
  const error = errors ? errors[at]! : 0
  if (error !== 0) return error
  const size = Math.abs(doubles[at]!)
  return size < 2 ** 53 && Math.floor(size) === size && (inexact.size === 0 || !inexact.has(at)) ? 0 : size * UNIT
}

/** Whether the double stands for its decimal: it is the nearest, and read back as its shortest text gives the same number. */
export function standsFor({ errors, inexact }: NumberVector, at: number): boolean {
  return errors ? errors[at] === 0 : inexact.size === 0 || !inexact.has(at)
}

export interface VectorSources {
  length: number
  today: DateValue
  /** An input that is a number, or a day; null where it is none, or cannot be had as a vector. */
  input(name: string): NumberVector | null
  /** The members of a column set. */
  members(name: string): readonly NumberVector[] | null
  /** Any expression; null where it cannot be reckoned here. */
  of(node: Node): NumberVector | null
}
