/** What must hold of the parts of a form beyond the shape of the document: cuts that ascend, bands that are not empty, values of the right kind. */
import { compareValues } from '../value/compare'
import { valueFromText } from '../value/value-text'
import type { ValueKind } from '../value/value'
import { bandInterval, folded, sideLength } from '../gate/form'
import type { Gate, GridSide, Input, List, Scale } from '../gate/document'
import { type GateProblem, gateProblem } from '../gate/gate-problem'
import type { Interval } from '../gate/interval'

export function formProblems(gate: Gate, inputs: ReadonlyMap<string, Input>): GateProblem[] {
  switch (gate.form) {
    case 'rules':
      return []
    case 'scale':
      return scaleProblems(gate, gate.bands.length, inputs, '')
    case 'match':
      return listProblems(gate, gate.lines.map(({ values }) => values), inputs, '')
    case 'grid': {
      const hasShape = gate.cells.length === sideLength(gate.down) && gate.cells.every((row) => row.length === sideLength(gate.across))
      return [...sideProblems(gate.down, inputs, 'down.'), ...sideProblems(gate.across, inputs, 'across.'), ...(hasShape ? [] : [gateProblem('grid-shape', 'cells')])]
    }
  }
}

function sideProblems(side: GridSide, inputs: ReadonlyMap<string, Input>, path: string): GateProblem[] {
  return side.kind === 'scale' ? scaleProblems(side, side.cuts.length + 1, inputs, path) : listProblems(side, side.lines, inputs, path)
}

/** @returns an empty list where the scale can decide */
function scaleProblems(scale: Scale, bands: number, inputs: ReadonlyMap<string, Input>, path: string): GateProblem[] {
  const input = inputs.get(scale.on)
  if (!input) return [gateProblem('unknown-input', `${path}on`, [scale.on])]
  if (input.isSet || input.type === 'boolean') return [gateProblem('not-ordered', `${path}on`, [scale.on])]
  if (bands !== scale.cuts.length + 1) return [gateProblem('band-count', `${path}bands`)]
  const points = [...scale.cuts.map(({ at }, index) => ({ at, path: `${path}cuts.${index}` })), ...endsOf(scale).map(([name, at]) => ({ at, path: `${path}${name}` }))]
  const bad = points.filter(({ at }) => valueFromText(at, input.type) === null)
  if (bad.length > 0) return bad.map(({ at, path }) => gateProblem('bad-value', path, [at, input.type]))
  const misplaced = scale.cuts.flatMap(({ at }, index) => {
    const before = scale.cuts[index - 1]
    return before && orderOf(before.at, at, input.type) >= 0 ? [gateProblem('cut-order', `${path}cuts.${index}`)] : []
  })
  if (misplaced.length > 0) return misplaced
  return Array.from({ length: bands }, (_, index) => index)
    .filter((index) => isEmpty(bandInterval(scale, index), input.type))
    .map((index) => gateProblem('empty-band', `${path}bands.${index}`))
}

function endsOf({ floor, ceiling }: Scale): [string, string][] {
  return [...(floor ? [['floor', floor.at] as [string, string]] : []), ...(ceiling ? [['ceiling', ceiling.at] as [string, string]] : [])]
}

function orderOf(a: string, b: string, kind: ValueKind): number {
  return compareValues(valueFromText(a, kind), valueFromText(b, kind)) ?? 0
}

function isEmpty({ low, high }: Interval, kind: ValueKind): boolean {
  if (!low || !high) return false
  const order = orderOf(low.at, high.at, kind)
  return order > 0 || (order === 0 && !(low.included && high.included))
}

function listProblems(list: List, lines: readonly string[][], inputs: ReadonlyMap<string, Input>, path: string): GateProblem[] {
  const input = inputs.get(list.on)
  if (!input) return [gateProblem('unknown-input', `${path}on`, [list.on])]
  if (input.isSet) return [gateProblem('not-ordered', `${path}on`, [list.on])]
  const seen = new Set<string>()
  return lines.flatMap((values, line) => values.flatMap((value, at) => {
    const place = `${path}lines.${line}.${at}`
    if (valueFromText(value, input.type) === null) return [gateProblem('bad-value', place, [value, input.type])]
    const key = list.folds && input.type === 'text' ? folded(value) : value
    if (seen.has(key)) return [gateProblem('repeated-value', place, [value])]
    seen.add(key)
    return []
  }))
}
