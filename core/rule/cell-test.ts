import { printExpression } from '../expression/print'
import type { GridGate, GridSide } from '../gate/document'
import { isEmptyLine, sideTest } from './forms'

/** FEEL text of what a record has to be for a line of a grid's side; null where it can be none. */
export function lineTest(gate: GridGate, side: GridSide, line: number): string | null {
  return isEmptyLine(side, line) ? null : printExpression(sideTest(side, line, new Map(gate.inputs.map((input) => [input.name, input]))))
}

/** FEEL text of what a record has to be for a cell of a grid, whether the cell gives anything or not; null where it can be none. */
export function cellTest(gate: GridGate, down: number, across: number): string | null {
  if (isEmptyLine(gate.down, down) || isEmptyLine(gate.across, across)) return null
  const inputs = new Map(gate.inputs.map((input) => [input.name, input]))
  const [left, right] = [sideTest(gate.down, down, inputs), sideTest(gate.across, across, inputs)]
  return printExpression({ kind: 'and', of: [left, right], span: { from: 0, to: 0 } })
}
