/** Words for what core says in data. */
import type { ColumnType } from '@dime-gate/core/value/read-cell'
import type { Refusal } from '@dime-gate/core/gate/edit-scale'
import type { Bound, Interval } from '@dime-gate/core/gate/interval'
import type { Reason } from '@dime-gate/core/run/reason'
import type { Tray } from '@dime-gate/core/run/scale-result'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import { number } from './format'

/** A stretch in words: `12 to under 25`, `40 and over`, `any value`. The unit stands in the column's head. */
export function intervalWords({ low, high }: Interval): string {
  if (low && high) return `${low.included ? '' : 'over '}${number(low.at)} to ${high.included ? '' : 'under '}${number(high.at)}`
  if (low) return low.included ? `${number(low.at)} and over` : `over ${number(low.at)}`
  if (high) return high.included ? `up to ${number(high.at)}` : `under ${number(high.at)}`
  return 'any value'
}

export function reasonWords(reason: Reason): string {
  switch (reason.kind) {
    case 'blank':
      return 'blank, so held'
    case 'unreadable':
      return `“${reason.text}” is not a number`
    case 'off-the-scale':
      return `${reason.end === 'floor' ? 'below the floor' : 'beyond the ceiling'} of ${number(reason.at)}`
    case 'on-a-cut':
      return `exactly ${number(reason.at)}, so ${reason.owner}`
  }
}

export function isTrouble(reason: Reason): boolean {
  return reason.kind === 'unreadable' || reason.kind === 'off-the-scale'
}

export function trayWords(tray: Tray, gate: ScaleGate): string {
  switch (tray.kind) {
    case 'all':
      return 'all'
    case 'band':
      return bandsOf(gate)[tray.band]?.label ?? 'that band'
    case 'cut':
      return `on the cut at ${number(gate.cuts[tray.cut]?.at ?? '')}`
    case 'on-a-cut':
      return 'on a cut'
    case 'held':
      return 'held'
    case 'unplaced':
      return 'unplaced'
    case 'unreadable':
      return 'unreadable'
    case 'exceptions':
      return 'exceptions'
  }
}

export function refusalWords(refusal: Refusal): string {
  if (refusal.code === 'beyond-cuts') {
    return `The ${refusal.end} has to lie ${refusal.end === 'floor' ? 'below' : 'above'} ${number(refusal.cut)}.`
  }
  const side = (bound: Bound | null, word: string) => (bound ? `${word} ${number(bound.at)}` : null)
  const limits = [side(refusal.low, 'above'), side(refusal.high, 'below')].filter((text) => text !== null)
  return `This cut has to lie ${limits.join(' and ')}.`
}

export const TYPE_WORDS: Record<ColumnType, string> = {
  number: 'number', percent: 'percent', date: 'date', text: 'text', boolean: 'yes or no',
}

export function withUnit(name: string, unit: string): string {
  return unit ? `${name} (${unit})` : name
}
