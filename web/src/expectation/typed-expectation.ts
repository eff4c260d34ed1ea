/** What somebody fills in to say what is expected, and what comes of it. */
import type { Expectation } from '@dime-gate/contract/expectation'
import type { BoundKind, Expected } from '@dime-gate/core/expectation/expectation'
import { typedNumber } from '../shared/format'

export interface TypedExpectation {
  of: Expected | { kind: 'record' } | null
  bound: BoundKind
  as: 'count' | 'share'
  low: string
  high: string
  /** Of records with this value alone. */
  within: { column: number; value: string } | null
  /** The one record. */
  who: { column: number | null; value: string }
  label: string | null
}

/** @returns the expectation, or what is wrong, as a sentence; null while something is still to be filled in */
export function fromTyped({ of, bound, as, low, high, within, who, label }: TypedExpectation): Expectation | string | null {
  if (of === null) return null
  if (of.kind === 'record') {
    if (who.column === null || who.value.trim() === '') return null
    return { kind: 'record', who: [{ column: who.column, value: who.value.trim() }], label }
  }
  const needed = { exactly: [low], 'at least': [low], 'at most': [high], between: [low, high] }[bound]
  if (needed.some((text) => text.trim() === '')) return null
  const read = needed.map((text) => ({ text, number: typedNumber(text.replace(/\s*%$/, '')) }))
  const bad = read.find(({ number }) => number === null || number.startsWith('-'))
  if (bad) return `“${bad.text}” is no number from 0 up.`
  const [first, last] = [read[0]!.number!, read.at(-1)!.number!]
  if (as === 'count' && [first, last].some((one) => one.includes('.'))) return 'Records are counted in whole numbers.'
  if (as === 'share' && Number(last) > 100) return 'A share is 100 % at most.'
  if (Number(first) > Number(last)) return 'The lower end is above the upper one.'
  const ends = { exactly: { low: first, high: first }, 'at least': { low: first, high: null }, 'at most': { low: null, high: first }, between: { low: first, high: last } }[bound]
  return { kind: 'count', of, bounds: { as, ...ends }, within: within && of.kind !== 'to look at' ? within : null }
}
