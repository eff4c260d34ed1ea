import type { Gate } from '../gate/document'
import { asRules } from './as-rules'
import type { FormChange, FormName } from './form-change'
import { gridFromRules } from './grid-from-rules'
import { matchFromRules } from './match-from-rules'
import { scaleFromRules } from './scale-from-rules'

/**
 * A gate in another form. Whatever is made gives every record what it got: it is asked in each part of what a record can be, blanks included.
 * @returns the gate with what it loses by it, or why it cannot be
 */
export function changeForm(gate: Gate, form: FormName): FormChange {
  if (gate.form === form) return { gate, losses: [] }
  const rules = asRules(gate)
  const made = inForm(rules.gate, form)
  return 'refusal' in made ? made : { gate: made.gate, losses: gate.form === 'rules' ? made.losses : [...('losses' in rules ? rules.losses : []), ...made.losses.filter(({ kind }) => kind !== 'notes')] }
}

function inForm(rules: ReturnType<typeof asRules>['gate'], form: FormName): FormChange {
  switch (form) {
    case 'rules':
      return { gate: rules, losses: [] }
    case 'scale':
      return scaleFromRules(rules)
    case 'match':
      return matchFromRules(rules)
    case 'grid':
      return gridFromRules(rules)
  }
}
