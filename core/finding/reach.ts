/** Rules and each other: which overlap, which are never reached, which change nothing. */
import { axesBeyond, type Box, choicesIn, intersection, type Layout } from './box'
import { type Budget, BudgetSpent, firstRuleAt, type RuleBoxes, isSomePlace, takenBy, visitLeft } from './coverage'
import type { Draft } from './finding'
import { areTrue, decisionFor, exampleIn, inputsOfRules, labelText, type Study } from './study'

const bare = { axis: null, where: {}, condition: '', isProven: true }
const walksDown = ({ gate }: Study) => gate.hitPolicy === 'first'

/** Places tried before a thorough search: most rules are reached, and most matter. */
const LOOKS = 60
/** Looks of one box at another that the search for the fewest rules that take all of another's may cost. */
const NAMING = 20_000

/**
 * For each rule, the earlier ones with other outcomes that it shares values with: with First a note, since order decides; an error where a rule must be alone.
 * With First an exception that stands before its general rule is no overlap, but what an order is for; nor is a rule that is never reached.
 */
export function overlaps(study: Study, unreached: ReadonlySet<number>, budget: Budget): Draft[] {
  const { gate, rules, layout, keys, today } = study
  if (gate.hitPolicy !== 'first' && gate.hitPolicy !== 'unique' && gate.hitPolicy !== 'any') return []
  const isOrdinary = (earlier: RuleBoxes, later: RuleBoxes) => walksDown(study) && !goesBeyond(earlier, later, layout, budget)
  return rules.flatMap((boxes, rule): Draft[] => {
    if (!boxes || (walksDown(study) && unreached.has(rule))) return []
    const shared: number[] = []
    for (const [at, other] of rules.slice(0, rule).entries()) {
      if (other && !(walksDown(study) && unreached.has(at)) && keys[at] !== keys[rule] && doMeet(boxes, other, layout) && !isOrdinary(other, boxes)) shared.push(at)
    }
    if (shared.length === 0) return []
    return [() => {
      const exampleOf = (at: number) => exampleIn(study, choicesIn(firstCommon(boxes, rules[at]!, layout)!, layout), (given) => areTrue(study, given, [at, rule]))
      // Where expressions are taken for independent, each pair has to be shown.
      const sure = study.isExact ? shared : shared.filter((at) => exampleOf(at) !== null)
      const [first] = sure
      if (first === undefined) return null
      return {
        kind: 'overlap', severity: walksDown(study) ? 'note' : 'error', ...bare, rules: [rule, ...sure], concerns: inputsOfRules(study, [rule, first]),
        labels: [labelText(gate.rules[rule]!.entries, today), labelText(gate.rules[first]!.entries, today)], example: exampleOf(first),
      }
    }]
  })
}

/** Whether a rule takes anything that another does not; true as well where that cannot be told within the budget. */
export function goesBeyond(rule: RuleBoxes, other: RuleBoxes, layout: Layout, budget: Budget): boolean {
  try {
    return rule.some((box) => visitLeft(box, other, layout, budget, () => true))
  } catch (error) {
    if (error instanceof BudgetSpent) return true
    throw error
  }
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
  return () => {
    const takers = fewestTakers(study, rule, boxes)
    return {
      kind: 'never reached', severity: 'warning', ...bare, labels: [labelText(gate.rules[rule]!.entries, today)], rules: [rule, ...takers], concerns: inputsOfRules(study, [rule, ...takers]),
      example: boxes.length === 0 ? null : exampleIn(study, choicesIn(boxes[0]!, layout), (given) => areTrue(study, given, [rule]) && decisionFor(study, given).rule !== rule),
    }
  }
}

/** Of the rules before one that is never reached: one that takes all its records alone, or else some of which none can be left out. */
function fewestTakers(study: Study, rule: number, boxes: RuleBoxes): number[] {
  const { rules, layout } = study
  const budget = { left: NAMING }
  if (boxes.length === 0) return []
  const alone = rules.slice(0, rule).findIndex((other) => other && boxes.every((box) => other.some((taking) => axesBeyond(box, taking, layout) === 0)))
  if (alone >= 0) return [alone]
  const used = new Set<Box>()
  for (const box of boxes) visitLeft(box, boxesBefore(study, rule), layout, { left: Infinity }, () => true, (box) => used.add(box))
  const needed = rules.slice(0, rule).flatMap((other, at) => (other?.some((box) => used.has(box)) ? [at] : []))
  return needed.toReversed().reduce((kept, at) => {
    const others = kept.filter((other) => other !== at)
    return goesBeyond(boxes, others.flatMap((other) => rules[other]!), layout, budget) ? kept : others
  }, needed)
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
    const example = exampleIn(study, choicesIn(parts[0]!, layout), (given) => decisionFor(study, given).rule === rule)
    if (!example && !study.isExact) return null
    const concerns = inputsOfRules(study, [...rules.keys()].slice(0, rule + 1))
    return { kind: 'no effect', severity: 'warning', ...bare, rules: [rule], labels: [labelText(gate.rules[rule]!.entries, today)], example, concerns }
  }
}

function boxesBefore({ boxes, starts }: Study, rule: number): Box[] {
  return boxes.slice(0, starts[rule]!)
}
