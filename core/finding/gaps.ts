/** Values that no rule takes: whole stretches, single values, and what lies between whole numbers. */
import { areEqual } from '../value/compare'
import { conditionOf, conditionText } from '../rule/condition'
import { type Region, sizeOf } from '../rule/axes'
import { type Box, boxWhere, choicesIn, differences, hasRegion, merged, regionsIn, withRegions } from './box'
import { type Budget, BudgetSpent, visitLeft } from './coverage'
import type { Draft, Finding, FindingKind } from './finding'
import { type Place, stretches, treeOf, unaryTexts } from './place'
import { areMet, decisionFor, exampleIn, inputsOf, type Study } from './study'

/** Over several axes, the parts left over that are looked at. */
const MOST_PARTS = 200

interface Hole {
  kind: FindingKind
  /** The axis along which it lies between what rules take; null where there is none. */
  axis: number | null
  box: Box
}

/** @returns gaps, edge holes and step holes; `isComplete` tells whether every part left over was looked at. @throws BudgetSpent */
export function gapFindings(study: Study, budget: Budget): { drafts: Draft[]; isComplete: boolean } {
  const { parts, isComplete } = leftOver(study, budget)
  const found: Hole[] = []
  const left = study.space.axes.reduce((rest, _, axis) => lessHoles(study, axis, rest, parts, budget, found), parts)
  const gaps = merged(left, study.layout).map((box): Hole => ({ kind: 'gap', axis: null, box }))
  return { drafts: [...found, ...gaps].flatMap((hole) => alongOne(study, hole)).map((hole) => () => holeFinding(study, hole)), isComplete }
}

/** All that may be expected and no rule takes, as boxes that do not overlap. */
function leftOver({ space, layout, boxes, rules }: Study, budget: Budget): { parts: Box[]; isComplete: boolean } {
  const isAnythingExpected = space.axes.every(({ regions }) => regions.some(({ isExpected }) => isExpected))
  const parts: Box[] = []
  const expected = boxWhere(space, (axis, region) => space.axes[axis]!.regions[region]!.isExpected)
  const isMost = () => parts.length >= MOST_PARTS && space.axes.length > 1
  const wasEnded = isAnythingExpected && visitLeft(expected, boxes, layout, budget, (left) => parts.push(left) > 0 && isMost())
  return { parts: merged(parts, layout), isComplete: !wasEnded && !rules.includes(null) }
}

/**
 * Takes out of `rest` what lies along one axis in a single value, or between two whole numbers, with rules on both sides.
 * @param parts all that is left over
 * @returns what is not in such holes
 */
function lessHoles(study: Study, axis: number, rest: Box[], parts: readonly Box[], budget: Budget, found: Hole[]): Box[] {
  const { space, layout } = study
  const { isOrdered, regions } = space.axes[axis]!
  if (!isOrdered) return rest
  const places = new Set(rest.flatMap((box) => regionsIn(box, axis, layout)))
  let left = rest
  for (const region of [...places].toSorted((a, b) => a - b)) {
    const kind = holeKind(regions[region]!)
    if (!kind || region === 0 || region === regions.length - 1) continue
    const beside = [region - 1, region + 1]
    const at = (boxes: readonly Box[], place: number) => boxes.filter((box) => hasRegion(box, axis, place, layout)).map((box) => withRegions(box, axis, [region], layout))
    const ending = left.filter((box) => !beside.some((place) => hasRegion(box, axis, place, layout)))
    const holes = differences(at(ending, region), beside.flatMap((place) => at(parts, place)), layout)
      // What is left over beside it may not be among the parts: not expected, or not looked at any more.
      .flatMap((hole) => differences([hole], beside.flatMap((place) => at(leftIn(study, withRegions(hole, axis, [place], layout), budget), place)), layout))
    found.push(...merged(holes, layout).map((box) => ({ kind, axis, box })))
    left = differences(left, holes, layout)
  }
  return left
}

function leftIn({ boxes, layout }: Study, box: Box, budget: Budget): Box[] {
  const left: Box[] = []
  visitLeft(box, boxes, layout, budget, (part) => left.push(part) > MOST_PARTS)
  if (left.length > MOST_PARTS) throw new BudgetSpent()
  return left
}

function holeKind(region: Region): FindingKind | null {
  if (region.isPoint) return 'edge hole'
  return isWholeStep(region) ? 'step hole' : null
}

/** From one whole number to the next: nobody who wrote `50 to 64` and `65 to 79` thought of 64.5. */
function isWholeStep({ low, high, example }: Region): boolean {
  if (low === null || high === null || areEqual(low, high) !== false) return false
  const [from, to] = [sizeOf(low), sizeOf(high)]
  return from.isInteger() && to.minus(from).eq(1) && !sizeOf(example).isInteger()
}

function placeOf({ space, layout }: Study, box: Box): Place {
  return space.axes.map((axis, at) => ({ axis, regions: regionsIn(box, at, layout) })).filter(({ axis, regions }) => regions.length < axis.regions.length)
}

/** Where one axis alone matters and has an order, each of its stretches is a gap of its own. */
function alongOne(study: Study, hole: Hole): Hole[] {
  const { space, layout } = study
  const [only, ...more] = placeOf(study, hole.box)
  // Between single values that are named there are as many stretches as values, and all of them are the rest.
  if (!only?.axis.isOrdered || more.length > 0 || namesSingleValues(study, only.regions)) return [hole]
  const axis = space.axes.indexOf(only.axis)
  return stretches(only.regions, only.axis).map(([from, to]) => ({ ...hole, axis, box: withRegions(hole.box, axis, only.regions.filter((region) => region >= from && region <= to), layout) }))
}

/** More stretches than this between single values are told as one. */
const MOST_STRETCHES = 3

function namesSingleValues({ space: { axes: [axis, ...others] } }: Study, regions: readonly number[]): boolean {
  if (others.length > 0) return false
  const left = new Set(regions)
  const taken = axis!.regions.filter((_, region) => !left.has(region))
  return taken.length > MOST_STRETCHES && taken.every(({ isPoint }) => isPoint)
}

function holeFinding(study: Study, { kind, axis, box }: Hole): Finding | null {
  const { space, layout, gate } = study
  const place = placeOf(study, box)
  const conditions = place.length > 0 ? [conditionOf(treeOf(place))] : []
  const example = exampleIn(study, choicesIn(box, layout), (given) => {
    const { status } = decisionFor(study, given)
    return (status === 'unplaced' || status === 'otherwise') && areMet(study, given, conditions)
  })
  // A place that several expressions share may hold no record at all.
  if (!example) return null
  // A scale has no other gap than beyond an end that somebody set.
  const isCaught = gate.otherwise !== null || (gate.rules[0]?.path.startsWith('bands.') ?? false)
  return {
    kind, axis: axis === null ? null : space.axes[axis]!.name, where: unaryTexts(place), condition: conditions.map(conditionText).join(''),
    example, concerns: inputsOf(study, place.map((one) => one.axis.subject)), rules: [], labels: [], isProven: study.isExact,
    severity: kind === 'gap' ? (isCaught ? 'note' : 'warning') : isCaught ? 'warning' : 'error',
  }
}
