import { newScale } from '../gate/new-scale'
import type { Cell } from '../table/cells'
import { numberColumn } from '../table/number-column'
import { givenNumber } from '../gate/scale-gate'
import { addCounts, noCounts } from './add-counts'
import { scaleCounts, scaleDecider } from './scale-result'

test('a table decided in parts has the counts of the table decided at once', () => {
  const cells: Cell[] = Array.from({ length: 200 }, (_, i) => (i % 13 === 0 ? null : i % 29 === 0 ? { unreadable: 'x' } : String(i % 50)))
  const gate = newScale('Tenths', givenNumber('x', ''), numberColumn(cells))
  const countsOf = (part: Cell[]) => {
    const column = numberColumn(part)
    return scaleCounts(column, scaleDecider(column)(gate))
  }
  const parts = [cells.slice(0, 64), cells.slice(64, 65), cells.slice(65)].map(countsOf)
  expect(parts.reduce(addCounts, noCounts(gate))).toEqual(countsOf(cells))
})
