/** Rules and each other: which overlap, which are never reached, which change nothing. */
import { type Box, firstPlace, intersection } from './box'
import { type Budget, type RuleBoxes, takenBy, visitLeft } from './coverage'
import type { Finding } from './finding'
import { decisionFor, entriesKey, exampleAt, labelText, type Study, trueRules } from './study'

const bare = { axis: null, where: {} }
const walksDown = ({ gate }: Study) => gate.hitPolicy === 'first'

/** For each rule, the earlier ones with other outcomes that it shares values with: with First a note, since order decides; an error where a rule must be alone. */
export function overlaps(study: Study): Finding[] {
  const { gate, rules, today } = study
  if (gate.hitPolicy !== 'first' && gate.hitPolicy !== 'unique' && gate.hitPolicy !== 'any') return []
  const keys = gate.rules.map(({ entries }) => entriesKey(entries))
  return rules.flatMap((boxes, rule): Finding[] => {
    const shared = boxes ? rules.slice(0, rule).flatMap((other, at) => {
      const common = other && keys[at] !== keys[rule] ? firstCommon(boxes, other) : null
      return common ? [{ at, common }] : []
    }) : []
    const examples = shared.map(({ at, common }) => ({ at, example: study.isExact && at !== shared[0]!.at ? null : exampleAt(study, firstPlace(common), (given) => {
      const found = trueRules(study, given)
      return found.includes(at) && found.includes(rule)
    }) }))
    const sure = study.isExact ? examples : examples.filter(({ example }) => example !== null)
    const [first] = sure
    if (!first) return []
    return [{
      kind: 'overlap', severity: walksDown(study) ? 'note' : 'error', ...bare, rules: [rule, ...sure.map(({ at }) => at)],
      labels: [labelText(gate.rules[rule]!.entries, today), labelText(gate.rules[first.at]!.entries, today)], example: first.example, isProven: study.isExact,
    }]
  })
}

function firstCommon(a: RuleBoxes, b: RuleBoxes): Box | null {
  for (const one of a) {
    for (const other of b) {
      const common = intersection(one, other)
      if (common) return common
    }
  }
  return null
}

/** @returns null where some record gets to the rule and is decided by it. @throws BudgetSpent */
export function neverReached(study: Study, rule: number, budget: Budget): Finding | null {
  const boxes = study.rules[rule]
  if (!boxes || study.asksForBlanks[rule] || (!walksDown(study) && boxes.length > 0)) return null
  const before = known(study.rules.slice(0, rule))
  const isReached = boxes.some((box) => visitLeft(box, before, budget, () => true))
  if (isReached) return null
  const by = study.rules.slice(0, rule).flatMap((other, at) => (other && firstCommon(boxes, other) ? [at] : []))
  const example = boxes.length === 0 ? null : exampleAt(study, firstPlace(boxes[0]!), (given) => trueRules(study, given).includes(rule) && decisionFor(study, given).rule !== rule)
  const { gate, today } = study
  return {
    kind: 'never reached', severity: 'warning', ...bare, rules: [rule, ...by], labels: [labelText(gate.rules[rule]!.entries, today)], example,
    isProven: study.isExact,
  }
}

/** Whether every record that a rule decides would get the same without it. @throws BudgetSpent */
export function noEffect(study: Study, rule: number, budget: Budget): Finding | null {
  const { gate, today } = study
  const boxes = study.rules[rule]
  if (!boxes || boxes.length === 0 || !walksDown(study) || study.asksForBlanks[rule] || study.rules.includes(null)) return null
  const own = entriesKey(gate.rules[rule]!.entries)
  const keys = gate.rules.map(({ entries }) => entriesKey(entries))
  const after = (part: Box, from: number): boolean => {
    for (let next = from; next < gate.rules.length; next++) {
      const taken = [...takenBy(part, study.rules[next]!)]
      if (taken.length === 0) continue
      if (keys[next] !== own) return true
      return visitLeft(part, [study.rules[next]!], budget, (left) => after(left, next + 1))
    }
    return entriesKey(gate.otherwise) !== own
  }
  const parts: Box[] = []
  const matters = boxes.some((box) => visitLeft(box, known(study.rules.slice(0, rule)), budget, (left) => {
    parts.push(left)
    return after(left, rule + 1)
  }))
  if (matters || parts.length === 0) return null
  const example = exampleAt(study, firstPlace(parts[0]!), (given) => decisionFor(study, given).rule === rule)
  if (!example && !study.isExact) return null
  return { kind: 'no effect', severity: 'warning', ...bare, rules: [rule], labels: [labelText(gate.rules[rule]!.entries, today)], example, isProven: study.isExact }
}

function known(rules: readonly (RuleBoxes | null)[]): RuleBoxes[] {
  return rules.filter((boxes) => boxes !== null)
}
