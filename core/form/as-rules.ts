import { printExpression } from '../expression/print'
import type { Gate, Rule, RulesGate } from '../gate/document'
import { conditionTree } from '../rule/condition'
import { formRules } from '../rule/forms'
import type { FormChange, FormLoss } from './form-change'

/** Any gate as ordered rules, one a band, line or cell that gives something: every record gets what it got. */
export function asRules(gate: Gate): FormChange<RulesGate> & { gate: RulesGate } {
  if (gate.form === 'rules') return { gate, losses: [] }
  const inputs = new Map(gate.inputs.map((input) => [input.name, input]))
  const rules = formRules(gate, inputs).map(({ condition, entries, isIdle }): Rule => ({ condition: isIdle ? '' : printExpression(conditionTree(condition)), entries, note: '' }))
  const losses: FormLoss[] = foldsText(gate) ? [{ kind: 'spelling' }] : []
  return { gate: { ...headOf(gate), form: 'rules', hitPolicy: 'first', rules }, losses }
}

function foldsText(gate: Gate): boolean {
  const sides = gate.form === 'match' ? [gate] : gate.form === 'grid' ? [gate.down, gate.across].filter((side) => side.kind === 'list') : []
  return sides.some(({ on, folds }) => folds && gate.inputs.find(({ name }) => name === on)?.type === 'text')
}

/** What gates of every form have. */
export function headOf({ schema, name, inputs, outcomes, otherwise, examples, meant, conditions }: Gate) {
  return { schema, name, inputs, outcomes, otherwise, ...(examples && { examples }), ...(meant && { meant }), ...(conditions && { conditions }) }
}
