/** What the inputs and the labels by themselves give away. */
import { printExpression } from '../expression/print'
import { testsOf } from '../rule/condition'
import { areNear } from '../gate/near-values'
import type { Finding } from './finding'
import { treeOf, unaryTexts } from './place'
import { decisionFor, exampleIn, inputsOf, inputsOfRules, labelText, onlyAt, type Study } from './study'

const bare = { axis: null, where: {}, condition: '', labels: [], rules: [], concerns: [], isProven: true }

/** Cuts and tests on values that are not expected at all. */
export function rangeFindings(study: Study): Finding[] {
  return study.space.axes.flatMap((axis, at) => axis.regions.flatMap((region, place): Finding[] => {
    if (!region.isPoint || region.isExpected || axis.input?.expected === null) return []
    const rules = rulesThatTest(study, at, place)
    if (rules.length === 0) return []
    const example = exampleIn(study, onlyAt(study.space.axes.map((_, other) => (other === at ? place : 0))), () => true)
    const where = [{ axis, regions: [place] }]
    return [{
      ...bare, kind: 'outside range', severity: 'warning', axis: axis.name, where: unaryTexts(where), condition: printExpression(treeOf(where)), rules, example,
      concerns: inputsOf(study, [axis.subject]),
    }]
  }))
}

/** The rules with a test that changes its mind at this value, or names it. */
function rulesThatTest({ gate, space }: Study, axis: number, region: number): number[] {
  const { isOrdered } = space.axes[axis]!
  const asks = ({ text }: { text: string }) => {
    const { axis: at, isTrue } = space.places.get(text)!
    if (at !== axis) return false
    return isOrdered ? isTrue[region] !== isTrue[region - 1] || isTrue[region] !== isTrue[region + 1] : isTrue[region]
  }
  return gate.rules.flatMap(({ condition }, rule) => (testsOf(condition).some(asks) ? [rule] : []))
}

/** Labels that differ by case, by spaces or by one letter are one label written several times, more often than not: told once for all that are alike. */
export function labelFindings({ gate, today }: Study): Finding[] {
  if (gate.outcomes[0]!.type !== 'text') return []
  const places = new Map<string, number[]>()
  gate.rules.forEach(({ entries }, rule) => {
    const label = labelText(entries, today)
    places.set(label, [...(places.get(label) ?? []), rule])
  })
  if (gate.otherwise && !places.has(labelText(gate.otherwise, today))) places.set(labelText(gate.otherwise, today), [])
  const families: string[][] = []
  for (const label of places.keys()) {
    const near = families.filter((family) => family.some((other) => areNear(other, label)))
    for (const family of near) families.splice(families.indexOf(family), 1)
    families.push([...near.flat(), label])
  }
  return families.filter(({ length }) => length > 1).map((labels): Finding => ({
    ...bare, kind: 'near-same labels', severity: 'warning', labels, rules: labels.flatMap((label) => places.get(label)!), example: null,
  }))
}

/** Inputs that may be blank while nobody said what then; only where a blank does hold a record. */
export function blankFindings(study: Study): Finding[] {
  const names = new Set(study.gate.rules.flatMap(({ condition }) => testsOf(condition).flatMap(({ inputs }) => inputs)))
  return [...study.gate.inputs.values()].filter(({ name, blank, isSet }) => blank === null && !isSet && names.has(name)).flatMap((input): Finding[] => {
    const places = study.space.axes.flatMap((axis, at) => axis.regions.map((_, region) => ({ at, region }))).slice(0, 40)
    const base = study.space.axes.map(() => 0)
    for (const { at, region } of [{ at: -1, region: 0 }, ...places]) {
      const place = at < 0 ? base : base.with(at, region)
      const example = exampleIn(study, onlyAt(place), () => true)!
      const blanked = { ...example, [input.name]: null }
      const { status, missing } = decisionFor(study, (name) => blanked[name] ?? null)
      if (status === 'held' && missing.includes(input.name)) {
        return [{ ...bare, kind: 'blank unsaid', severity: 'note', axis: input.name, concerns: inputsOfRules(study, [...study.gate.rules.keys()]), example: blanked }]
      }
    }
    return []
  })
}
