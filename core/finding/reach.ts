/** Rules and each other: which overlap, which are never reached, which change nothing. */
import { axesBeyond, type Box, firstPlace, intersection, type Layout } from './box'
import { type Budget, firstRuleAt, type RuleBoxes, isSomePlace, takenBy, visitLeft } from './coverage'
import type { Finding } from './finding'
import { areTrue, decisionFor, exampleAt, labelText, type Study } from './study'

const bare = { axis: null, where: {} }
const walksDown = ({ gate }: Study) => gate.hitPolicy === 'first'

/** Places tried before a thorough search: most rules are reached, and most matter. */
const LOOKS = 60

/** A finding whose example is still to be made; null where it turns out that there is none to show it. */
export type Draft = () => Finding | null

/** For each rule, the earlier ones with other outcomes that it shares values with: with First a note, since order decides; an error where a rule must be alone. */
export function overlaps(study: Study): Draft[] {
  const { gate, rules, layout, keys, today } = study
  if (gate.hitPolicy !== 'first' && gate.hitPolicy !== 'unique' && gate.hitPolicy !== 'any') return []
  return rules.flatMap((boxes, rule): Draft[] => {
    if (!boxes) return []
    const shared: number[] = []
    for (const [at, other] of rules.slice(0, rule).entries()) if (other && keys[at] !== keys[rule] && doMeet(boxes, other, layout)) shared.push(at)
    if (shared.length === 0) return []
    return [() => {
      const exampleOf = (at: number) => exampleAt(study, firstPlace(firstCommon(boxes, rules[at]!, layout)!, layout), (given) => areTrue(study, given, [at, rule]))
      // Where expressions are taken for independent, each pair has to be shown.
      const sure = study.isExact ? shared : shared.filter((at) => exampleOf(at) !== null)
      const [first] = sure
      if (first === undefined) return null
      return {
        kind: 'overlap', severity: walksDown(study) ? 'note' : 'error', ...bare, rules: [rule, ...sure],
        labels: [labelText(gate.rules[rule]!.entries, today), labelText(gate.rules[first]!.entries, today)], example: exampleOf(first), isProven: study.isExact,
      }
    }]
  })
}

function doMeet(a: RuleBoxes, b: RuleBoxes, layout: Layout): boolean {
  for (const one of a) for (const other of b) if (axesBeyond(one, other, layout) >= 0) return true
  return false
}

function firstCommon(a: RuleBoxes, b: RuleBoxes, layout: Layout): Box | null {
  for (const one of a) {
    for (const other of b) {
      const common = intersection(one, other, layout)
      if (common) return common
    }
  }
  return null
}

/** @returns null where some record gets to the rule and is decided by it. @throws BudgetSpent */
export function neverReached(study: Study, rule: number, budget: Budget): Draft | null {
  const { gate, rules, layout, today } = study
  const boxes = rules[rule]
  if (!boxes || study.asksForBlanks[rule] || (!walksDown(study) && boxes.length > 0)) return null
  const isReached = (place: number[]) => firstRuleAt(rules, 0, rule, place, layout) < 0
  if (boxes.some((box) => isSomePlace(box, layout, LOOKS, isReached))) return null
  const before = boxesBefore(study, rule)
  if (boxes.some((box) => visitLeft(box, before, layout, budget, () => true))) return null
  return () => ({
    kind: 'never reached', severity: 'warning', ...bare, labels: [labelText(gate.rules[rule]!.entries, today)], isProven: study.isExact,
    rules: [rule, ...rules.slice(0, rule).flatMap((other, at) => (other && doMeet(boxes, other, layout) ? [at] : []))],
    example: boxes.length === 0 ? null : exampleAt(study, firstPlace(boxes[0]!, layout), (given) => areTrue(study, given, [rule]) && decisionFor(study, given).rule !== rule),
  })
}

/** Whether every record that a rule decides would get the same without it. @throws BudgetSpent */
export function noEffect(study: Study, rule: number, budget: Budget): Draft | null {
  const { gate, rules, layout, keys, today } = study
  const boxes = rules[rule]
  if (!boxes || boxes.length === 0 || !walksDown(study) || study.asksForBlanks[rule] || rules.includes(null)) return null
  const wouldChange = (next: number) => keys.at(next) !== keys[rule]
  const isDecisive = (place: number[]) => firstRuleAt(rules, 0, rule, place, layout) < 0 && wouldChange(firstRuleAt(rules, rule + 1, rules.length, place, layout))
  if (boxes.some((box) => isSomePlace(box, layout, LOOKS, isDecisive))) return null

  const changes = (part: Box, from: number): boolean => {
    for (let next = from; next < rules.length; next++) {
      if (takenBy(part, rules[next]!, layout).length === 0) continue
      return wouldChange(next) || visitLeft(part, rules[next]!, layout, budget, (left) => changes(left, next + 1))
    }
    return wouldChange(-1)
  }
  const parts: Box[] = []
  const before = boxesBefore(study, rule)
  const matters = boxes.some((box) => visitLeft(box, before, layout, budget, (left) => {
    parts.push(left)
    return changes(left, rule + 1)
  }))
  if (matters || parts.length === 0) return null
  return () => {
    const example = exampleAt(study, firstPlace(parts[0]!, layout), (given) => decisionFor(study, given).rule === rule)
    if (!example && !study.isExact) return null
    return { kind: 'no effect', severity: 'warning', ...bare, rules: [rule], labels: [labelText(gate.rules[rule]!.entries, today)], example, isProven: study.isExact }
  }
}

function boxesBefore({ boxes, starts }: Study, rule: number): Box[] {
  return boxes.slice(0, starts[rule]!)
}
