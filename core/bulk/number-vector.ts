/**
 * Numeric expressions over whole columns, in doubles that carry a bound of their own error: whoever compares
 * one with a constant closer than its error has to ask the decimals (see `tableTests`).
 */
import type { Node, NodeOf } from '../expression/tree'
import { type Bitmap, emptyBitmap, intersection, fullBitmap, hasBit, setBit } from '../table/bitmap'
import { Decimal } from '../value/number'

export interface NumberVector {
  readonly length: number
  /** Near the decimal result; meaningless where `valid` says no. */
  readonly doubles: Float64Array
  /** No decimal result lies further away than this; null where each double is the nearest to its decimal. Infinite where nothing can be said. */
  readonly errors: Float64Array | null
  readonly valid: Bitmap
}

export interface VectorSources {
  length: number
  /** An input that is a number; null where it is none, or cannot be had as a vector. */
  input(name: string): NumberVector | null
  /** The members of a column set. */
  members(name: string): readonly NumberVector[] | null
}

/** Half a unit in the last place, relative: what rounding to the nearest double may cost. */
export const UNIT = 2 ** -53
/** Results this small may have lost digits to underflow, and results this large are near the end of the doubles. */
const SMALLEST = 1e-290
const LARGEST = 1e290

/** @returns null where the expression is not made of numbers, + - * /, abs, mean, sum, min and max alone */
export function numberVector(node: Node, sources: VectorSources): NumberVector | null {
  switch (node.kind) {
    case 'number':
      return constantVector(node.number, sources.length)
    case 'name':
      return sources.input(node.name)
    case 'negate': {
      const of = numberVector(node.of, sources)
      return of && { ...of, doubles: of.doubles.map((double) => -double) }
    }
    case 'arithmetic':
      return arithmetic(node, sources)
    case 'call':
      return call(node, sources)
    default:
      return null
  }
}

function constantVector(text: string, length: number): NumberVector {
  const number = new Decimal(text).toNumber()
  return { length, doubles: new Float64Array(length).fill(number), errors: null, valid: fullBitmap(length) }
}

export function errorAt({ doubles, errors }: NumberVector, at: number): number {
  return errors ? errors[at]! : Math.abs(doubles[at]!) * UNIT
}

type Operation = (a: number, aError: number, b: number, bError: number) => number

/** The error of the operation before; a field, because returning two numbers at once makes a heap of objects. */
let error = 0
const OPERATIONS: Partial<Record<NodeOf<'arithmetic'>['operator'], Operation>> = {
  '+': (a, aError, b, bError) => settled(a + b, aError + bError),
  '-': (a, aError, b, bError) => settled(a - b, aError + bError),
  '*': (a, aError, b, bError) => settled(a * b, Math.abs(a) * bError + Math.abs(b) * aError + aError * bError, a !== 0 && b !== 0),
  '/': (a, aError, b, bError) => {
    const quotient = a / b
    const room = Math.abs(b) - bError
    return settled(quotient, room > 0 ? (aError + Math.abs(quotient) * bError) / room : Infinity, a !== 0)
  },
}

function settled(result: number, carried: number, canVanish = false): number {
  const size = Math.abs(result)
  // The last term makes up for the roundings in the bound itself, and for decimal128's own.
  error = size > LARGEST || (canVanish && size < SMALLEST) ? Infinity : carried * (1 + 1e-9) + size * UNIT * (1 + 1e-9)
  return result
}

function arithmetic({ operator, left, right }: NodeOf<'arithmetic'>, sources: VectorSources): NumberVector | null {
  const operation = OPERATIONS[operator]
  const [a, b] = [numberVector(left, sources), operation ? numberVector(right, sources) : null]
  if (!operation || !a || !b) return null
  const { length } = a
  const [doubles, errors, valid] = [new Float64Array(length), new Float64Array(length), intersection(a.valid, b.valid)]
  for (let at = 0; at < length; at++) {
    const divisor = b.doubles[at]!
    const divisorError = errorAt(b, at)
    if (operator === '/' && divisor === 0 && divisorError === 0) {
      valid.words[at >>> 5]! &= ~(1 << (at & 31))
      continue
    }
    doubles[at] = operation(a.doubles[at]!, errorAt(a, at), divisor, divisorError)
    errors[at] = error
  }
  return { length, doubles, errors, valid }
}

function call({ name, args, names }: NodeOf<'call'>, sources: VectorSources): NumberVector | null {
  const [first] = args
  if (!first || names) return null
  if (name === 'abs' && args.length === 1) {
    const of = numberVector(first, sources)
    return of && { ...of, doubles: of.doubles.map(Math.abs) }
  }
  if (name !== 'mean' && name !== 'sum' && name !== 'min' && name !== 'max') return null
  const set = args.length === 1 && first.kind === 'name' ? sources.members(first.name) : null
  if (set) return gathered(name, set, sources.length, false)
  const items = args.length === 1 && first.kind === 'list' ? first.items : args
  const vectors = items.map((item) => numberVector(item, sources))
  return vectors.length === 0 || vectors.includes(null) ? null : gathered(name, vectors as NumberVector[], sources.length, true)
}

/** @param needsAll whether a blank among the members makes the result blank, as among arguments; of a column set blanks are left out */
function gathered(name: 'mean' | 'sum' | 'min' | 'max', members: readonly NumberVector[], length: number, needsAll: boolean): NumberVector {
  const [doubles, errors, valid] = [new Float64Array(length), new Float64Array(length), emptyBitmap(length)]
  for (let at = 0; at < length; at++) {
    let [count, total, totalError] = [0, 0, 0]
    for (const member of members) {
      if (!hasBit(member.valid, at)) continue
      const [value, valueError] = [member.doubles[at]!, errorAt(member, at)]
      if (count === 0) [total, totalError] = [value, valueError]
      else if (name === 'min' || name === 'max') {
        total = name === 'min' ? Math.min(total, value) : Math.max(total, value)
        totalError = Math.max(totalError, valueError)
      } else {
        total = settled(total + value, totalError + valueError)
        totalError = error
      }
      count++
    }
    if (count === 0 || (needsAll && count < members.length)) continue
    setBit(valid, at)
    doubles[at] = name === 'mean' ? settled(total / count, totalError / count) : total
    errors[at] = name === 'mean' ? error : totalError
  }
  return { length, doubles, errors, valid }
}
