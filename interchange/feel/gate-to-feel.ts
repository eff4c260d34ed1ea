/**
 * A gate as one FEEL expression: `if … then … else` down its rules (DMN 1.5 clause 10.3.2.13). FEEL has no word for a
 * record that waits for a value: where a value is blank, a condition that hangs on it counts as not true.
 */
import { printExpression } from '@dime-gate/core/expression/print'
import { substitute } from '@dime-gate/core/expression/substitute'
import type { Node } from '@dime-gate/core/expression/tree'
import type { Library, Precision } from '@dime-gate/core/gate/document'
import { withoutIdleRules } from '@dime-gate/core/gate/form'
import { gateProblemWords } from '@dime-gate/core/gate/gate-problem-words'
import { conditionTree } from '@dime-gate/core/rule/condition'
import { callNode, nameNode, valueNode } from '@dime-gate/core/rule/literal'
import { lower } from '@dime-gate/core/rule/lower'
import type { Lowered, LoweredEntry } from '@dime-gate/core/rule/rules'
import { checkWithin, GateError } from '../gate-error'
import { ROUNDING_FUNCTIONS } from '../rounding-functions'

const NOWHERE = { from: 0, to: 0 }
const NULL: Node = { kind: 'null', span: NOWHERE }

/**
 * @param wanted the name of an outcome; the label where none is named
 * @throws GateError naming what an `if` cannot say
 */
export function gateToFeel(library: Library, gate: string, wanted?: string): string {
  return printExpression(treeOf(library, gate, wanted))
}

function treeOf(library: Library, name: string, wanted: string | undefined): Node {
  const gate = library.gates.find((one) => one.name === name)
  if (!gate) throw new GateError(`There is no gate “${name}”.`)
  const lowering = lower(withoutIdleRules(gate), library)
  if ('problems' in lowering) throw new GateError(`The gate “${name}” cannot decide yet: ${gateProblemWords(lowering.problems[0]!)}`)
  const { lowered } = lowering
  if (lowered.hitPolicy !== 'first') throw new GateError(`An if takes the first rule that holds, and “${name}” is read as “${lowered.hitPolicy}”. Take it as DMN.`)
  const at = wanted === undefined ? 0 : lowered.outcomes.findIndex((outcome) => outcome.name === wanted)
  if (at === -1) throw new GateError(`The gate “${name}” has no outcome “${wanted}”.`)
  const values = inputValues(lowered, (of, outcome) => {
    const tree = treeOf(library, of, outcome ?? undefined)
    checkWithin(of, printExpression(tree))
    return tree
  })
  const entry = (entries: readonly LoweredEntry[] | null): Node => {
    const found = entries?.[at]
    if (!found) return NULL
    return 'tree' in found ? substitute(found.tree, values) : found.value === null ? NULL : valueNode(found.value)
  }
  return lowered.rules.reduceRight<Node>(
    (otherwise, { condition, entries }) => ({ kind: 'if', condition: substitute(conditionTree(condition), values), then: entry(entries), otherwise, span: NOWHERE }),
    entry(lowered.otherwise),
  )
}

/** By input, what stands for its value: figures and other gates written out, precision as a call that rounds. */
function inputValues({ inputs }: Lowered, other: (gate: string, outcome: string | null) => Node): Map<string, Node> {
  const values = new Map<string, Node>()
  for (const { name, source, figure, precision, isSet } of inputs.values()) {
    const value = figure ? substitute(figure, values) : source.kind === 'gate' ? other(source.gate, source.outcome) : nameNode(name)
    values.set(name, rounded(value, precision, isSet))
  }
  return values
}

function rounded(value: Node, precision: Precision, isSet: boolean): Node {
  if (precision.kind === 'as measured') return value
  const places: Node = { kind: 'number', number: String(precision.places), span: NOWHERE }
  const one = (of: Node) => callNode(ROUNDING_FUNCTIONS[precision.kind], of, places)
  return isSet ? { kind: 'for', variables: [{ name: 'member', over: value }], result: one(nameNode('member')), span: NOWHERE } : one(value)
}
