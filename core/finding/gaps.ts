/** Values that no rule takes: whole stretches, single values, and what lies between whole numbers. */
import { areEqual } from '../value/compare'
import { type Axis, boundText, type Region, sizeOf } from '../rule/axes'
import { type Box, boxWhere, firstPlace, isIn, regionsIn } from './box'
import { type Budget, type RuleBoxes, visitLeft } from './coverage'
import type { Finding, FindingKind } from './finding'
import { decisionFor, exampleAt, type Study } from './study'

/** Over several axes, the parts left over that are looked at: as many as somebody would read. */
const MOST_PARTS = 20

/** @returns gaps, edge holes and step holes; `isComplete` tells whether every part left over was looked at. @throws BudgetSpent */
export function gapFindings(study: Study, budget: Budget): { findings: Finding[]; isComplete: boolean } {
  const { space, layout } = study
  const rules = study.rules.filter((boxes) => boxes !== null)
  const parts: Box[] = []
  const expected = boxWhere(space, (axis, region) => space.axes[axis]!.regions[region]!.isExpected)
  const isAnythingExpected = space.axes.every(({ regions }) => regions.some(({ isExpected }) => isExpected))
  const wasEnded = isAnythingExpected && visitLeft(expected, study.boxes, layout, budget, (left) => parts.push(left) >= MOST_PARTS && space.axes.length > 1)
  const found = new Map<string, Finding>()
  const leftOver = space.axes.length === 1 ? mergedStretches(parts) : parts
  for (const part of leftOver) {
    for (const { key, finding } of gapsIn(study, part, rules)) if (!found.has(key)) found.set(key, finding)
  }
  const isWhole = rules.length === study.rules.length
  return { findings: [...found.values()], isComplete: isWhole && !wasEnded }
}

/** On one axis all that is left over is one part, whose stretches are told one by one. */
function mergedStretches(parts: readonly Box[]): Box[] {
  const [first, ...rest] = parts
  return first ? [rest.reduce((all, part) => all.map((word, i) => word | part[i]!), first)] : []
}

function* gapsIn(study: Study, part: Box, rules: readonly RuleBoxes[]): Generator<{ key: string; finding: Finding }> {
  const { layout } = study
  const place = firstPlace(part, layout)
  let told = false
  for (const [at, axis] of study.space.axes.entries()) {
    if (!axis.isOrdered) continue
    for (const [from, to] of stretches(regionsIn(part, at, layout))) {
      const here = place.with(at, from)
      const kind = kindOfHole(study, at, here, from, to, rules)
      if (study.space.axes.length > 1 && kind === 'gap') continue
      const finding = holeFinding(study, kind, axis, { [axis.name]: stretchText(axis, from, to) }, here)
      if (!finding) continue
      told = true
      yield { key: `${kind} ${axis.name} ${from} ${to}`, finding }
    }
  }
  if (told) return
  const where: Record<string, string> = {}
  study.space.axes.forEach((axis, at) => {
    const regions = regionsIn(part, at, layout)
    if (regions.length < axis.regions.length) where[axis.name] = axis.isOrdered ? stretches(regions).map(([from, to]) => stretchText(axis, from, to)).join(', ') : regions.map((region) => axis.regions[region]!.text).join(', ')
  })
  const finding = holeFinding(study, 'gap', null, where, place)
  if (finding) yield { key: JSON.stringify(where), finding }
}

function holeFinding(study: Study, kind: FindingKind, axis: Axis | null, where: Record<string, string>, place: readonly number[]): Finding | null {
  const example = exampleAt(study, place, (given) => {
    const { status } = decisionFor(study, given)
    return status === 'unplaced' || status === 'otherwise'
  })
  // A place that several expressions share may hold no record at all.
  if (!example) return null
  const isCaught = study.gate.otherwise !== null
  return {
    kind, axis: axis?.name ?? null, where, example, rules: [], labels: [], isProven: study.isExact,
    severity: kind === 'gap' ? (isCaught ? 'note' : 'warning') : isCaught ? 'warning' : 'error',
  }
}

/** A single value, or a stretch between two whole numbers, with rules on both sides. */
function kindOfHole({ space, layout }: Study, at: number, place: readonly number[], from: number, to: number, rules: readonly RuleBoxes[]): FindingKind {
  const axis = space.axes[at]!
  const isTaken = (region: number) => region >= 0 && region < axis.regions.length && rules.some((boxes) => boxes.some((box) => isIn(box, place.with(at, region), layout)))
  if (from !== to || !isTaken(from - 1) || !isTaken(to + 1)) return 'gap'
  const region = axis.regions[from]!
  if (region.isPoint) return 'edge hole'
  return isWholeStep(region) ? 'step hole' : 'gap'
}

/** From one whole number to the next: nobody who wrote `50 to 64` and `65 to 79` thought of 64.5. */
function isWholeStep({ low, high, example }: Region): boolean {
  if (low === null || high === null || areEqual(low, high) !== false) return false
  const [from, to] = [sizeOf(low), sizeOf(high)]
  return from.isInteger() && to.minus(from).eq(1) && !sizeOf(example).isInteger()
}

/** Runs of neighbouring regions, from first to last. */
export function stretches(regions: readonly number[]): [from: number, to: number][] {
  const runs: [number, number][] = []
  for (const region of regions) {
    const last = runs.at(-1)
    if (last && last[1] === region - 1) last[1] = region
    else runs.push([region, region])
  }
  return runs
}

/** Neighbouring regions of an ordered axis as one unary test. */
export function stretchText({ regions }: Axis, from: number, to: number): string {
  const [first, last] = [regions[from]!, regions[to]!]
  if (from === to) return first.text
  const [low, high] = [first.low === null ? null : boundText(first.low), last.high === null ? null : boundText(last.high)]
  if (low !== null && high !== null) return `${first.isPoint ? '[' : '('}${low}..${high}${last.isPoint ? ']' : ')'}`
  if (low !== null) return `${first.isPoint ? '>=' : '>'} ${low}`
  return high === null ? '-' : `${last.isPoint ? '<=' : '<'} ${high}`
}
