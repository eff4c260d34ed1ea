/** What each rule of a run's gate says: a band its limits, a FEEL unary test such as `[12..25)`; any other its condition as FEEL. */
import { gatesAsked } from '@dime-gate/contract/question'
import type { Run } from '@dime-gate/contract/run'
import { bandInterval } from '@dime-gate/core/gate/form'
import { intervalText } from '@dime-gate/core/gate/interval'
import { conditionText } from '@dime-gate/core/rule/condition'

/** In the order of the rules that core decides by. */
export function ruleTexts({ gate, feeding }: Pick<Run, 'gate' | 'feeding'>): string[] {
  if (gate.form === 'scale') return gate.bands.map((_, index) => intervalText(bandInterval(gate, index)))
  const asked = gatesAsked({ gate, feeding })
  return 'gates' in asked ? asked.gates.at(-1)!.lowered.rules.map(({ condition }) => conditionText(condition)) : []
}
