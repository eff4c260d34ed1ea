/** Why a record is an exception, as data; words are put to it where it is shown. */
import { isInside } from '../gate/interval'
import type { ScaleGate } from '../gate/document'
import { bandsOf, ownerOf } from '../gate/scale-gate'
import { compareDecimals, type DecimalText } from '../value/number'

export type Reason =
  | { kind: 'blank' }
  | { kind: 'unreadable'; text: string }
  | { kind: 'off-the-scale'; end: 'floor' | 'ceiling'; at: DecimalText }
  | { kind: 'on-a-cut'; at: DecimalText; owner: string }

/** What a gate sees of one record: its value, or the text that could not be read as one. */
export interface Seen {
  value: DecimalText | null
  unreadable: string | null
}

/** The reason why someone should look at this record, or null where there is none. */
export function reasonOf(gate: ScaleGate, { value, unreadable }: Seen): Reason | null {
  if (unreadable !== null) return { kind: 'unreadable', text: unreadable }
  if (value === null) return { kind: 'blank' }
  if (gate.floor && !isInside(value, { low: gate.floor, high: null })) {
    return { kind: 'off-the-scale', end: 'floor', at: gate.floor.at }
  }
  if (gate.ceiling && !isInside(value, { low: null, high: gate.ceiling })) {
    return { kind: 'off-the-scale', end: 'ceiling', at: gate.ceiling.at }
  }
  const cut = gate.cuts.findIndex(({ at }) => compareDecimals(at, value) === 0)
  return cut < 0 ? null : { kind: 'on-a-cut', at: gate.cuts[cut]!.at, owner: bandsOf(gate)[ownerOf(gate, cut)]!.label }
}
