/** What is gathered of several vectors, record by record: sums, means, middles, extremes, counts. */
import { emptyBitmap, fullBitmap, setBit } from '../table/bitmap'
import { errorAt, LARGEST, NONE_INEXACT, type NumberVector, SMALLEST, standsFor, UNIT } from './vector'

export const GATHERED = ['mean', 'sum', 'min', 'max', 'median', 'count'] as const

export type Gathering = (typeof GATHERED)[number]

/** @param needsAll whether a blank among the members makes the result blank, as among arguments; of a column set blanks are left out */
export function gathered(name: Gathering, members: readonly NumberVector[], length: number, needsAll: boolean): NumberVector {
  const counts = countsOf(members, length)
  const least = needsAll ? members.length : name === 'count' ? 0 : 1
  const valid = emptyBitmap(length)
  for (let at = 0; at < length; at++) if (counts[at]! >= least) setBit(valid, at)
  const kind = members[0]?.kind ?? 'number'
  switch (name) {
    case 'count':
      return { length, kind: 'number', doubles: Float64Array.from(counts), errors: null, valid, inexact: NONE_INEXACT }
    case 'sum': case 'mean':
      return { length, kind, ...summed(members, length, name === 'mean' ? counts : null), valid, inexact: NONE_INEXACT }
    case 'median':
      return { length, kind, ...medians(members, length), valid, inexact: NONE_INEXACT }
    case 'min': case 'max': {
      const { doubles, errors } = extremes(members, length, name === 'max' ? 1 : -1)
      // What is there is a bound of it where something is missing, as long as it is known exactly.
      const bounds = needsAll ? doubles.map((double, at) => (counts[at] === 0 || errors[at] !== 0 ? NaN : double)) : undefined
      return { length, kind, doubles, errors, valid, inexact: NONE_INEXACT, bounds }
    }
  }
}

function countsOf(members: readonly NumberVector[], length: number): Uint16Array {
  const counts = new Uint16Array(length)
  for (const { valid: { words } } of members) for (let at = 0; at < length; at++) counts[at]! += (words[at >>> 5]! >>> (at & 31)) & 1
  return counts
}

/**
 * Sums, or where counts are given means. No sum of n doubles, each the nearest to its decimal, is further off than n units
 * of the sum of their sizes (N. J. Higham, Accuracy and Stability of Numerical Algorithms, clause 4.2).
 */
function summed(members: readonly NumberVector[], length: number, counts: Uint16Array | null): { doubles: Float64Array; errors: Float64Array } {
  const [doubles, errors, sizes] = [new Float64Array(length), new Float64Array(length), new Float64Array(length)]
  for (const { doubles: values, errors: own, valid: { words } } of members) {
    for (let at = 0; at < length; at++) {
      if (((words[at >>> 5]! >>> (at & 31)) & 1) === 0) continue
      doubles[at]! += values[at]!
      sizes[at]! += Math.abs(values[at]!)
      if (own) errors[at]! += own[at]!
    }
  }
  const units = (members.length + 1) * UNIT
  for (let at = 0; at < length; at++) {
    const count = counts ? Math.max(1, counts[at]!) : 1
    const size = sizes[at]!
    const [total, far] = [doubles[at]!, errors[at]!]
    doubles[at] = total / count
    // The last terms make up for the division, for decimal128's own rounding, and for those in the bound itself.
    errors[at] = size > LARGEST || !(size === 0 || size > SMALLEST) ? Infinity : ((far + size * units) / count) * (1 + 1e-9) + Math.abs(doubles[at]!) * 2 * UNIT
  }
  return { doubles, errors }
}

function extremes(members: readonly NumberVector[], length: number, sign: 1 | -1): { doubles: Float64Array; errors: Float64Array } {
  const [doubles, errors] = [new Float64Array(length).fill(sign * -Infinity), new Float64Array(length)]
  for (const member of members) {
    const { doubles: values, valid: { words } } = member
    const isExact = !member.errors && member.inexact.size === 0
    for (let at = 0; at < length; at++) {
      if (((words[at >>> 5]! >>> (at & 31)) & 1) === 0) continue
      const value = values[at]!
      if (sign === 1 ? value > doubles[at]! : value < doubles[at]!) doubles[at] = value
      // One that does not stand for its decimal leaves a doubt, whichever it is in the end.
      if (!isExact && !standsFor(member, at)) errors[at] = Math.max(errors[at]!, errorAt(member, at))
    }
  }
  for (let at = 0; at < length; at++) if (errors[at] !== 0) errors[at] = Math.max(errors[at]!, Math.abs(doubles[at]!) * UNIT)
  return { doubles, errors }
}

/** No value is off by more than the worst of them, and so neither is the one in the middle. */
function medians(members: readonly NumberVector[], length: number): { doubles: Float64Array; errors: Float64Array } {
  const [doubles, errors] = [new Float64Array(length), new Float64Array(length)]
  const values = new Float64Array(members.length)
  const areExact = members.every((member) => !member.errors && member.inexact.size === 0)
  for (let at = 0; at < length; at++) {
    let count = 0
    let error = 0
    for (let next = 0; next < members.length; next++) {
      const member = members[next]!
      if (((member.valid.words[at >>> 5]! >>> (at & 31)) & 1) === 0) continue
      insert(values, count++, member.doubles[at]!)
      if (!areExact && !standsFor(member, at)) error = Math.max(error, errorAt(member, at))
    }
    if (count === 0) continue
    const middle = count >>> 1
    const value = values[middle]!
    if (count % 2 === 1) {
      doubles[at] = value
      errors[at] = error === 0 ? 0 : Math.max(error, Math.abs(value) * UNIT)
    } else {
      const below = values[middle - 1]!
      doubles[at] = (below + value) / 2
      errors[at] = below === value && error === 0 ? 0 : Math.max(error, Math.max(Math.abs(below), Math.abs(value)) * 4 * UNIT)
    }
  }
  return { doubles, errors }
}

/** Names of what no expression calls: the so-manieth of a set from above, or from below, and without end where there are not so many. */
export const RANKED = { fromAbove: 'so-manieth from above', fromBelow: 'so-manieth from below' } as const
/** The so-manieth member of each record, from above (1) or from below (-1); without end in that direction where there are not so many. */
export function rankedMembers(members: readonly NumberVector[], place: number, sign: 1 | -1, length: number): NumberVector {
  const doubles = new Float64Array(length)
  const values = new Float64Array(members.length)
  for (let at = 0; at < length; at++) {
    let count = 0
    for (let next = 0; next < members.length; next++) {
      const { doubles, valid: { words } } = members[next]!
      if (((words[at >>> 5]! >>> (at & 31)) & 1) === 1) insert(values, count++, doubles[at]!)
    }
    doubles[at] = place > count ? sign * -Infinity : values[sign === 1 ? count - place : place - 1]!
  }
  return { length, kind: 'number', doubles, errors: null, valid: fullBitmap(length), inexact: NONE_INEXACT }
}

/** Puts a value among `count` others that ascend. */
function insert(values: Float64Array, count: number, value: number): void {
  let at = count
  for (; at > 0 && values[at - 1]! > value; at--) values[at] = values[at - 1]!
  values[at] = value
}
