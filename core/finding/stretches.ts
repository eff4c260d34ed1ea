/** Along one ordered input: labels that come twice, and ranks that do not rise or fall. */
import { printExpression } from '../expression/print'
import { isIn } from './box'
import type { Finding } from './finding'
import { treeOf, unaryTexts } from './place'
import { decisionFor, exampleIn, inputsOf, labelText, onlyAt, type Study } from './study'

interface Stretch {
  /** Null where no rule takes it. */
  label: string | null
  from: number
  to: number
}

/** For gates that look at one ordered thing. @returns each finding, to be made where it is told: a list of many values can have thousands */
export function stretchFindings(study: Study): (() => Finding)[] {
  const [axis, ...others] = study.space.axes
  if (!axis?.isOrdered || others.length > 0 || study.rules.includes(null) || study.gate.hitPolicy !== 'first') return []
  const found = stretchesAlong(study)
  return [...splitLabels(study, found), ...rankBreaks(study, found)]
}

function stretchesAlong({ gate, rules, space, layout, today }: Study): Stretch[] {
  const stretches: Stretch[] = []
  space.axes[0]!.regions.forEach((_, region) => {
    const rule = rules.findIndex((boxes) => boxes!.some((box) => isIn(box, [region], layout)))
    const label = rule >= 0 ? labelText(gate.rules[rule]!.entries, today) : null
    const last = stretches.at(-1)
    if (last && last.label === label) last.to = region
    else stretches.push({ label, from: region, to: region })
  })
  return stretches
}

function splitLabels(study: Study, stretches: readonly Stretch[]): (() => Finding)[] {
  const byLabel = new Map<string, { places: number[]; second: Stretch | null }>()
  // An unnamed stretch between two of one label is a gap, and told as one.
  let last: string | null = null
  stretches.forEach((stretch, place) => {
    const { label } = stretch
    if (label === null) return
    const known = byLabel.get(label) ?? { places: [], second: null }
    if (known.places.length > 0 && last !== label) known.second ??= stretch
    known.places.push(place)
    byLabel.set(label, known)
    last = label
  })
  const { regions } = study.space.axes[0]!
  // Who names single values knows that others lie between them.
  const isListed = (places: readonly number[]) => places.every((place) => regionsOf(stretches[place]!).every((region) => regions[region]!.isPoint))
  return [...byLabel].flatMap(([label, { places, second }]) => (second && !isListed(places) ? [() => along(study, 'split label', [label], places.flatMap((place) => regionsOf(stretches[place]!)), second.from, label)] : []))
}

/** Where the ranks first turn, against the way that they set out in. */
function rankBreaks(study: Study, stretches: readonly Stretch[]): (() => Finding)[] {
  const ranks = new Map(study.gate.outcomes[0]!.labels.map(({ value, rank }) => [value, rank]))
  const ranked = stretches.flatMap((stretch) => {
    const rank = stretch.label === null ? null : ranks.get(stretch.label)
    return rank === null || rank === undefined ? [] : [{ ...stretch, label: stretch.label!, rank }]
  })
  const steps = ranked.slice(1).map(({ rank }, at) => Math.sign(rank - ranked[at]!.rank))
  const way = Math.sign(steps.reduce((sum, step) => sum + step, 0)) || steps.find((step) => step !== 0) || 1
  return steps.flatMap((step, at) => {
    if (step === way || step === 0) return []
    const { from, to, label } = ranked[at + 1]!
    return [() => along(study, 'rank break', [ranked[at]!.label, label], regionsOf({ from, to }), from, label)]
  })
}

function regionsOf({ from, to }: { from: number; to: number }): number[] {
  return Array.from({ length: to - from + 1 }, (_, at) => from + at)
}

function along(study: Study, kind: 'split label' | 'rank break', labels: string[], regions: number[], region: number, label: string): Finding {
  const axis = study.space.axes[0]!
  const place = [{ axis, regions }]
  const rules = study.gate.rules.flatMap(({ entries }, rule) => (labels.includes(labelText(entries, study.today)) ? [rule] : []))
  const example = exampleIn(study, onlyAt([region]), (given) => {
    const decision = decisionFor(study, given)
    return decision.rule >= 0 && labelText(study.gate.rules[decision.rule]!.entries, study.today) === label
  })
  return {
    kind, severity: 'warning', axis: axis.name, where: unaryTexts(place), condition: printExpression(treeOf(place)), rules, labels, example,
    concerns: inputsOf(study, [axis.subject]), isProven: study.isExact,
  }
}
