/** The forms of a gate as ordered rules: for each band, line or cell the test of its input, as an expression. */
import type { Node } from '../expression/tree'
import { type Condition, conditionOf } from './condition'
import type { Entry, Gate, GridSide, Input, List, Scale } from '../gate/document'
import { bandInterval, folded } from '../gate/form'
import type { Bound } from '../gate/interval'
import { callNode, literalNode, nameNode, textNode } from './literal'

/** A rule whose condition is not text. */
export interface FormRule {
  condition: Condition
  entries: Entry[]
  path: string
  /** A line without values takes nothing, and nobody need be told. */
  isIdle: boolean
}

/** @param inputs by name; every input that the gate is on is among them */
export function formRules(gate: Exclude<Gate, { form: 'rules' }>, inputs: ReadonlyMap<string, Input>): FormRule[] {
  switch (gate.form) {
    case 'scale':
      return gate.bands.map(({ entries }, index) => ({ condition: conditionOf(scaleTest(gate, index, inputs)), entries, path: `bands.${index}`, isIdle: false }))
    case 'match':
      return gate.lines.map(({ values, entries }, index) => ({ condition: listCondition(gate, values, inputs), entries, path: `lines.${index}`, isIdle: values.length === 0 }))
    case 'grid':
      return gate.cells.flatMap((row, down) => row.flatMap((entries, across) => {
        if (!entries) return []
        const tests = [sideTest(gate.down, down, inputs), sideTest(gate.across, across, inputs)]
        return [{ condition: { kind: 'all' as const, of: tests.map(conditionOf) }, entries, path: `cells.${down}.${across}`, isIdle: isEmptyLine(gate.down, down) || isEmptyLine(gate.across, across) }]
      }))
  }
}

export function isEmptyLine(side: GridSide, index: number): boolean {
  return side.kind === 'list' && side.lines[index]!.length === 0
}

export function sideTest(side: GridSide, index: number, inputs: ReadonlyMap<string, Input>): Node {
  return side.kind === 'scale' ? scaleTest(side, index, inputs) : listTest(side, side.lines[index]!, inputs)
}

const NOWHERE = { from: 0, to: 0 }

function scaleTest(scale: Scale, index: number, inputs: ReadonlyMap<string, Input>): Node {
  const { low, high } = bandInterval(scale, index)
  const kind = inputs.get(scale.on)!.type
  const of = nameNode(scale.on)
  const end = (bound: Bound) => literalNode(bound.at, kind)!
  if (low && high) {
    return { kind: 'in', of, tests: [{ kind: 'range', low: end(low), high: end(high), lowIncluded: low.included, highIncluded: high.included, span: NOWHERE }], span: NOWHERE }
  }
  if (low) return { kind: 'comparison', operator: low.included ? '>=' : '>', left: of, right: end(low), span: NOWHERE }
  if (high) return { kind: 'comparison', operator: high.included ? '<=' : '<', left: of, right: end(high), span: NOWHERE }
  return { kind: 'boolean', value: true, span: NOWHERE }
}

/** Values of lists that are kept, in characters: a list of thousands is lowered anew with each that is moved, and most of its lines stay. */
const MOST_KEPT = 2_000_000
const kept = new Map<string, Condition>()
let keptCharacters = 0

function listCondition(list: List, values: readonly string[], inputs: ReadonlyMap<string, Input>): Condition {
  const key = JSON.stringify([list.on, list.folds, inputs.get(list.on)!.type, values])
  const known = kept.get(key)
  if (known) return known
  if ((keptCharacters += key.length) > MOST_KEPT) {
    kept.clear()
    keptCharacters = key.length
  }
  const condition = conditionOf(listTest(list, values, inputs))
  kept.set(key, condition)
  return condition
}

function listTest({ on, folds }: List, values: readonly string[], inputs: ReadonlyMap<string, Input>): Node {
  const kind = inputs.get(on)!.type
  const isFolded = folds && kind === 'text'
  const literals = values.map((value) => literalNode(isFolded ? folded(value) : value, kind)!)
  if (literals.length === 0) return { kind: 'boolean', value: false, span: NOWHERE }
  return { kind: 'in', of: isFolded ? foldedNode(nameNode(on)) : nameNode(on), tests: literals, span: NOWHERE }
}

/** The same in FEEL, so that a folding match list can be handed on. */
export function foldedNode(of: Node): Node {
  const inner = callNode('replace', callNode('replace', of, textNode('^\\s+|\\s+$'), textNode('')), textNode('\\s+'), textNode(' '))
  return callNode('lower case', inner)
}
