/** What the inputs and the labels by themselves give away. */
import { editDistance } from '../expression/names'
import { testsOf } from '../rule/condition'
import { folded } from '../gate/form'
import type { Axis } from '../rule/axes'
import type { Finding } from './finding'
import { decisionFor, exampleAt, labelText, type Study } from './study'

const bare = { axis: null, where: {}, labels: [], rules: [] }

/** Cuts and tests on values that are not expected at all. */
export function rangeFindings(study: Study): Finding[] {
  return study.space.axes.flatMap((axis, at) => axis.regions.flatMap((region, place): Finding[] => {
    if (!region.isPoint || region.isExpected || axis.input?.expected === null || !isTested(study, axis, place)) return []
    const example = exampleAt(study, study.space.axes.map((_, other) => (other === at ? place : 0)), () => true)
    return [{ ...bare, kind: 'outside range', severity: 'warning', axis: axis.name, where: { [axis.name]: region.text }, example, isProven: true }]
  }))
}

/** Whether a test changes its mind at this value, or names it. */
function isTested({ space }: Study, axis: Axis, region: number): boolean {
  return [...space.places.values()].some(({ axis: at, isTrue }) => {
    if (space.axes[at] !== axis) return false
    return axis.isOrdered ? isTrue[region] !== isTrue[region - 1] || isTrue[region] !== isTrue[region + 1] : isTrue[region]
  })
}

/** Labels that differ by case, by spaces or by one letter are one label written twice, more often than not. */
export function labelFindings({ gate, today }: Study): Finding[] {
  const places = new Map<string, number[]>()
  gate.rules.forEach(({ entries }, rule) => {
    const label = labelText(entries, today)
    places.set(label, [...(places.get(label) ?? []), rule])
  })
  if (gate.otherwise) places.set(labelText(gate.otherwise, today), places.get(labelText(gate.otherwise, today)) ?? [])
  if (gate.outcomes[0]!.type !== 'text') return []
  const labels = [...places.keys()]
  return labels.flatMap((label, at) => labels.slice(at + 1).filter((other) => areNear(label, other)).map((other): Finding => ({
    ...bare, kind: 'near-same labels', severity: 'warning', labels: [label, other], rules: [...places.get(label)!, ...places.get(other)!], example: null, isProven: true,
  })))
}

/** `Band 1` and `Band 2` are near each other on purpose, and so are short words. */
function areNear(a: string, b: string): boolean {
  const [left, right] = [folded(a), folded(b)]
  if (left === right || left.replace(/[ _.-]/g, '') === right.replace(/[ _.-]/g, '')) return true
  const differ = left.replace(/\d+/g, '') !== right.replace(/\d+/g, '')
  return differ && Math.min(left.length, right.length) >= 5 && editDistance(left, right) === 1
}

/** Inputs that may be blank while nobody said what then; only where a blank does hold a record. */
export function blankFindings(study: Study): Finding[] {
  const names = new Set(study.gate.rules.flatMap(({ condition }) => testsOf(condition).flatMap(({ inputs }) => inputs)))
  return [...study.gate.inputs.values()].filter(({ name, blank, isSet }) => blank === null && !isSet && names.has(name)).flatMap((input): Finding[] => {
    const places = study.space.axes.flatMap((axis, at) => axis.regions.map((_, region) => ({ at, region }))).slice(0, 40)
    const base = study.space.axes.map(() => 0)
    for (const { at, region } of [{ at: -1, region: 0 }, ...places]) {
      const place = at < 0 ? base : base.with(at, region)
      const example = exampleAt(study, place, () => true)!
      const blanked = { ...example, [input.name]: null }
      const { status, missing } = decisionFor(study, (name) => blanked[name] ?? null)
      if (status === 'held' && missing.includes(input.name)) {
        return [{ ...bare, kind: 'blank unsaid', severity: 'note', axis: input.name, example: blanked, isProven: true }]
      }
    }
    return []
  })
}
