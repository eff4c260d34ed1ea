/** A first scale for a column nobody has cut yet: three bands of about equal size. */
import { quantiles } from '../table/quantiles'
import type { NumberColumn } from '../table/number-column'
import { BLANK_CODE, type DictionaryColumn } from '../table/dictionary-column'
import type { DateValue } from '../value/value'
import { compareDecimals, Decimal, type DecimalText, plain } from '../value/number'
import { markFor } from './mark'
import { paletteColours } from './palette'
import type { Cut, Input, ScaleGate } from './document'
import { roundDay, textOnLine } from './scale-axis'
import { plainScale } from './scale-gate'

const LABELS = [['All'], ['Low', 'High'], ['Low', 'Middle', 'High']]

/** How many round steps there are at least from the first to the last tenth of the values. */
const STEPS = 40

export function newScale(name: string, input: Input, column: NumberColumn | DictionaryColumn): ScaleGate {
  const cuts = firstCuts(column)
  const labels = LABELS[cuts.length]!
  const colours = paletteColours('ordered', labels.length)
  const bands = labels.map((label, index) => ({ label, colour: colours[index]!, mark: markFor(index) }))
  return plainScale(name, input, cuts, bands)
}

/**
 * Round numbers near where a third and two thirds of the values lie below; none leaves a band empty: a column of one value,
 * or none, starts uncut.
 */
export function firstCuts(column: NumberColumn | DictionaryColumn): Cut[] {
  if (column.kind === 'dictionary') return firstDayCuts(column)
  const [least, low, first, second, high] = quantiles(column, [0, 0.1, 1 / 3, 2 / 3, 0.9])
  const spread = low && high ? new Decimal(high).minus(low) : new Decimal(0)
  const cuts: DecimalText[] = []
  for (const at of [first, second]) {
    const before = cuts.at(-1) ?? least
    if (at && before && compareDecimals(before, at) < 0) cuts.push(roundNear(at, spread.div(STEPS), before))
  }
  return cuts.map((at) => ({ at, owner: 'above' }))
}

/** The same of days: on the first of a year or month near them. */
function firstDayCuts({ codes, values }: DictionaryColumn): Cut[] {
  const days = Float64Array.from(codes.filter((code) => code !== BLANK_CODE), (code) => (values[code] as DateValue).day).sort()
  const at = (share: number) => days[Math.round(share * (days.length - 1))] ?? 0
  const step = (at(0.9) - at(0.1)) / STEPS
  const cuts = [1 / 3, 2 / 3].map((share) => roundDay(at(share), step))
  return cuts.filter((day, index) => day > (index === 0 ? at(0) : cuts[0]!) && day <= at(1)).map((day) => ({ at: textOnLine(String(day), 'date'), owner: 'above' }))
}

/** A value cut off to a power of ten no greater than `step`; itself where that would not lie above `before`. */
function roundNear(at: DecimalText, step: Decimal, before: DecimalText): DecimalText {
  if (step.isZero()) return at
  const unit = new Decimal(10).pow(Math.floor(Math.log10(step.toNumber())))
  const found = plain(new Decimal(at).div(unit).floor().times(unit))
  return compareDecimals(before, found) < 0 ? found : at
}
