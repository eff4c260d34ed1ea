/** A column brought to the precision that a gate asks for, exactly. */
import { type Bitmap, hasBit } from '../table/bitmap'
import type { NumberColumn } from '../table/number-column'
import { Decimal, isExactAsDouble, plain } from '../value/number'
import type { Precision } from '../gate/document'
import { errorAt, type NumberVector, UNIT } from './vector'

/** Within these, a whole number over a power of ten is one correctly rounded division. */
const LARGEST_WHOLE = 1e15
const MOST_PLACES = 22

/**
 * @param exactly the rounded decimal of one record, asked for where doubles leave a doubt; null where it has none
 */
export function roundedColumn(vector: NumberVector, precision: Exclude<Precision, { kind: 'as measured' }>, exactly: (at: number) => Decimal | null): NumberColumn {
  const { length } = vector
  const doubles = new Float64Array(length)
  const valid: Bitmap = { length, words: vector.valid.words.slice() }
  const exact = new Map<number, string>()
  const power = 10 ** precision.places
  const isEasy = precision.places >= 0 && precision.places <= MOST_PLACES
  const shift = precision.kind === 'truncated' ? 0 : 0.5
  for (let at = 0; at < length; at++) {
    if (!hasBit(valid, at)) continue
    const size = Math.abs(vector.doubles[at]!) * power + shift
    const doubt = errorAt(vector, at) * power * (1 + 1e-9) + size * UNIT * 4
    const whole = Math.floor(size)
    if (isEasy && size < LARGEST_WHOLE && size - whole > doubt && whole + 1 - size > doubt) {
      doubles[at] = (Math.sign(vector.doubles[at]!) * whole) / power + 0
      continue
    }
    const value = exactly(at)
    if (value === null) {
      valid.words[at >>> 5]! &= ~(1 << (at & 31))
      continue
    }
    const text = plain(value)
    doubles[at] = new Decimal(text).toNumber()
    if (!isExactAsDouble(text)) exact.set(at, text)
  }
  return { kind: 'number', length, doubles, valid, exact, unreadable: new Map() }
}
