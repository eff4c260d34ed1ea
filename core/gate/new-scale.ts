/** A first scale for a column nobody has cut yet: three bands of about equal size. */
import { quantiles } from '../table/quantiles'
import type { NumberColumn } from '../table/number-column'
import { compareDecimals, type DecimalText } from '../value/number'
import { markFor } from './mark'
import { paletteColours } from './palette'
import type { Input, ScaleGate } from './document'
import { plainScale } from './scale-gate'

const LABELS = [['All'], ['Low', 'High'], ['Low', 'Middle', 'High']]

/** Cuts stand on values that the column has, and none leaves a band empty: a column of one value, or none, starts uncut. */
export function newScale(name: string, input: Input, column: NumberColumn): ScaleGate {
  const [least, ...thirds] = quantiles(column, [0, 1 / 3, 2 / 3])
  const cuts: DecimalText[] = []
  for (const at of thirds) {
    const before = cuts.at(-1) ?? least
    if (at && before && compareDecimals(before, at) < 0) cuts.push(at)
  }
  const labels = LABELS[cuts.length]!
  const colours = paletteColours('ordered', labels.length)
  const bands = labels.map((label, index) => ({ label, colour: colours[index]!, mark: markFor(index) }))
  return plainScale(name, input, cuts.map((at) => ({ at, owner: 'above' })), bands)
}
