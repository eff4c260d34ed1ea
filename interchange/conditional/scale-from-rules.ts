/** Rules that ask nothing but where one number lies, as the scale that they make. */
import { type Condition, testsOf } from '@dime-gate/core/rule/condition'
import { decideRecord } from '@dime-gate/core/decide/decide-record'
import type { Cut, Entry, RulesGate, ScaleGate } from '@dime-gate/core/gate/document'
import type { Bound } from '@dime-gate/core/gate/interval'
import { lower } from '@dime-gate/core/rule/lower'
import { paletteColours } from '@dime-gate/core/gate/palette'
import type { Lowered } from '@dime-gate/core/rule/rules'
import { blankTest, simpleTest } from '@dime-gate/core/rule/simple-test'
import type { Decimal } from '@dime-gate/core/value/number'
import { isNumber, type Value } from '@dime-gate/core/value/value'

const ANY_DAY = { kind: 'date', day: 0 } as const

/** @returns null where the rules are about more than one number, or make something else than neighbouring bands */
export function scaleFromRules(gate: RulesGate): ScaleGate | null {
  const [input, ...others] = gate.inputs
  const [outcome] = gate.outcomes
  const lowering = lower(gate)
  if ('problems' in lowering || !input || others.length > 0 || input.type !== 'number' || input.isSet) return null
  const { lowered } = lowering
  const constants = constantsOf(lowered, input.name)
  if (!constants || constants.length === 0) return null
  const reached = new Set<number>()
  const entriesAt = (value: Value): Entry[] | null => {
    const { status, rule } = decideRecord(lowered, () => value, ANY_DAY)
    reached.add(rule)
    const entries = status === 'labelled' ? gate.rules[rule]!.entries : status === 'otherwise' ? gate.otherwise : null
    // A branch that gives nothing is as good as none.
    return entries?.every((entry) => entry === null) ? null : entries
  }
  const parts = partsOf(regionsOf(constants, entriesAt), constants)
  const isHeld = decideRecord(lowered, () => null, ANY_DAY).status === 'held'
  const atBlank = isHeld ? null : entriesAt(null)
  if (!parts || parts.bands.length < 2 || parts.bands.some(({ entries }) => entries.some((entry) => entry && 'feel' in entry))) return null
  // A rule that takes nothing would vanish without a word; as rules, the findings tell of it.
  if (gate.rules.some((_, rule) => !reached.has(rule) && !isAboutBlank(lowered.rules[rule]!.condition, input.name))) return null
  // What blanks get would go to all that is off the scale too.
  if (atBlank && (parts.floor || parts.ceiling)) return null
  const order = [...new Set(parts.bands.map(({ entries: [entry] }) => (entry && 'is' in entry ? entry.is : '')))]
  const labels = outcome!.labels.toSorted((a, b) => order.indexOf(a.value) - order.indexOf(b.value))
  const colours = paletteColours('ordered', labels.length)
  return {
    schema: 1, form: 'scale', name: gate.name, on: input.name, ...parts, otherwise: atBlank,
    inputs: [{ ...input, blank: isHeld ? input.blank : atBlank ? 'pass' : 'hold' }],
    outcomes: [{ ...outcome!, labels: labels.map((label, at) => ({ ...label, colour: colours[at]! })) }],
  }
}

function isAboutBlank(condition: Condition, input: string): boolean {
  const blank = condition.kind === 'test' ? blankTest(condition.tree) : null
  return blank?.subject.kind === 'name' && blank.subject.name === input && !blank.isNegated
}

/** The numbers that the input is compared with, ascending; null where it is asked anything else. */
function constantsOf({ rules }: Lowered, input: string): Decimal[] | null {
  const constants = new Map<string, Decimal>()
  for (const { tree } of rules.flatMap(({ condition }) => testsOf(condition))) {
    const blank = blankTest(tree)
    if (blank?.subject.kind === 'name' && blank.subject.name === input) continue
    const simple = simpleTest(tree, ANY_DAY)
    if (simple?.subject.kind !== 'name' || simple.subject.name !== input) return null
    for (const end of simple.pieces.flatMap(({ low, high }) => [low, high])) {
      if (end === null) continue
      if (!isNumber(end)) return null
      constants.set(end.toString(), end)
    }
  }
  return [...constants.values()].toSorted((a, b) => a.cmp(b))
}

/** What each part of the axis gets: below the first constant, on it, between it and the next, and so on. */
function regionsOf(constants: readonly Decimal[], entriesAt: (value: Value) => Entry[] | null): (Entry[] | null)[] {
  const below = constants.map((at, index) => (index === 0 ? at.minus(1) : at.plus(constants[index - 1]!).div(2)))
  return [...constants.flatMap((at, index) => [entriesAt(below[index]!), entriesAt(at)]), entriesAt(constants.at(-1)!.plus(1))]
}

type Parts = Pick<ScaleGate, 'cuts' | 'floor' | 'ceiling' | 'bands'>

/** Neighbouring regions that get the same, as bands; null where a single value stands alone, or a hole lies between bands. */
function partsOf(regions: readonly (Entry[] | null)[], constants: readonly Decimal[]): Parts | null {
  const isSame = (a: Entry[] | null, b: Entry[] | null) => JSON.stringify(a) === JSON.stringify(b)
  const starts = regions.flatMap((entries, at) => (at === 0 || !isSame(entries, regions[at - 1]!) ? [at] : []))
  // A band that begins on a constant (an odd place) owns it; otherwise the band below does.
  const edges = starts.slice(1).map((start): Cut => ({ at: constants[(start - 1) >> 1]!.toFixed(), owner: start % 2 === 1 ? 'above' : 'below' }))
  if (edges.some(({ at }, index) => index > 0 && edges[index - 1]!.at === at)) return null
  const groups = starts.map((start) => regions[start]!)
  const [isOpenBelow, isOpenAbove] = [groups[0] === null, groups.at(-1) === null]
  const bands = groups.slice(isOpenBelow ? 1 : 0, isOpenAbove ? -1 : undefined)
  if (bands.length === 0 || bands.some((entries) => entries === null)) return null
  const bound = (edge: Cut, isLow: boolean): Bound => ({ at: edge.at, included: (edge.owner === 'above') === isLow })
  return {
    floor: isOpenBelow ? bound(edges[0]!, true) : null, ceiling: isOpenAbove ? bound(edges.at(-1)!, false) : null,
    cuts: edges.slice(isOpenBelow ? 1 : 0, isOpenAbove ? -1 : undefined), bands: bands.map((entries) => ({ entries: entries! })),
  }
}
