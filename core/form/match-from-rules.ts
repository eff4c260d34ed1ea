import type { MatchGate, RulesGate } from '../gate/document'
import { grouped } from '../value/grouped'
import { textOfValue } from '../value/value-text'
import { headOf } from './as-rules'
import { anotherValue, type AskedInput } from './asked'
import type { FormChange, FormLoss } from './form-change'
import { provenChange, readRules, samplesOf } from './read-rules'

/** Rules that ask nothing but which value one input has, as the match list that they make: a tray a rule. */
export function matchFromRules(gate: RulesGate): FormChange<MatchGate> {
  const read = readRules(gate, 1)
  if ('refusal' in read) return read
  const [{ input, values, hasStretches, folds }] = read.asked as [AskedInput]
  const { name } = input
  if (values.length === 0) return { refusal: { kind: 'nothing' } }
  if (hasStretches) return { refusal: { kind: 'stretches', input: name } }
  const answers = read.probe.all(values.map((value) => new Map([[name, value]]))).map((answer, at) => ({ value: textOfValue(values[at]!), ...answer }))
  const other = anotherValue(read.asked[0]!)
  if (other !== null && read.probe.at(new Map([[name, other]])).rule >= 0) return { refusal: { kind: 'rest', input: name } }
  const byRule = grouped(answers.filter(({ rule }) => rule >= 0), ({ rule }) => rule)
  // A tray that nothing was sorted into is a rule that nobody has written yet.
  const lines = read.gate.rules.flatMap(({ entries, condition, isOff }, rule) => {
    const taken = byRule.get(rule)
    return taken || (condition.trim() === '' && !isOff) ? [{ values: (taken ?? []).map(({ value }) => value), entries }] : []
  })
  const list = (blank: typeof input.blank, otherwise = read.gate.otherwise): MatchGate => ({
    ...headOf(read.gate), form: 'match', on: name, folds, lines, otherwise, inputs: read.gate.inputs.map((one) => (one.name === name ? { ...one, blank } : one)),
  })
  const atBlank = read.probe.at(new Map())
  const samples = samplesOf([{ name, values: [...values, ...(other === null ? [] : [other])] }])
  const made = provenChange(read, samples, [list(input.blank), list('hold'), list('pass'), ...(atBlank.entries && !read.gate.otherwise ? [list('pass', atBlank.entries)] : [])])
  if ('refusal' in made) return made
  // Those that nobody has written are trays now.
  const idle = gate.rules.flatMap(({ isOff }, rule) => (isOff ? [rule] : []))
  return { ...made, losses: made.losses.flatMap((loss): FormLoss[] => (loss.kind !== 'idle' ? [loss] : idle.length > 0 ? [{ kind: 'idle', rules: idle }] : [])) }
}
