/** The parts of a condition, each as a condition of its own, so that each can be counted by itself. */
import type { RulesGate } from '@dime-gate/core/gate/document'
import { conditionText } from '@dime-gate/core/rule/condition'
import { isEverything, partAt, waysOf } from '@dime-gate/core/rule/edit-condition'
import { readCondition, typesIn } from '@dime-gate/core/rule/read-condition'

/** @property way through the condition to the part, its places parted by points */
export interface PartText {
  way: string
  text: string
}

/** @returns none where the text is no condition, or says nothing yet */
export function partsOf(condition: string, gate: Pick<RulesGate, 'inputs'>): PartText[] {
  const read = readCondition(condition, typesIn(gate))
  if ('problem' in read || isEverything(read.condition)) return []
  return waysOf(read.condition).map((way) => ({ way: way.join('.'), text: conditionText(partAt(read.condition, way)!) }))
}
