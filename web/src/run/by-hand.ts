/** What records of a run were given by hand: what it makes of the counts, and how it is told of a record. */
import type { Override } from '@dime-gate/contract/review'
import { count } from '../shared/format'
import { listed } from '../shared/words'

/** @property with how many have the label once what was given by hand counts */
export interface CountByHand {
  label: string
  gate: number
  with: number
}

/** What a record was given in place of the gate's label; null for no value, undefined where only another outcome was given. */
export function labelByHand({ outcomes }: Pick<Override, 'outcomes'>, labelOutcome: string): string | null | undefined {
  return labelOutcome in outcomes ? outcomes[labelOutcome]! : undefined
}

/** By record what stands in place of its label, and why. */
export type HandsOf = ReadonlyMap<number, { label: string | null; why: string }>

/** Beside its record, what stands in place of its label, and why; nothing where the label stands. */
export function handOf({ record, outcomes, by, note }: Pick<Override, 'record' | 'outcomes' | 'by' | 'note'>, labelOutcome: string): [record: number, hand: { label: string | null; why: string }][] {
  const label = labelByHand({ outcomes }, labelOutcome)
  return label === undefined ? [] : [[record, { label, why: `by hand${by ? `, ${by}` : ''}: ${note}` }]]
}

/** The labels whose counts are others with what was given by hand, in the order of the gate's labels. */
export function countsByHand(labels: readonly { label: string; records: number }[], overrides: readonly Pick<Override, 'outcomes' | 'was'>[], labelOutcome: string): CountByHand[] {
  const by = new Map<string, number>()
  const add = (label: string, records: number) => by.set(label, (by.get(label) ?? 0) + records)
  for (const override of overrides) {
    const given = labelByHand(override, labelOutcome)
    if (given === undefined) continue
    if (override.was.kind === 'label') add(override.was.label, -1)
    if (given !== null) add(given, 1)
  }
  const known = labels.map(({ label, records }) => ({ label, records }))
  const others = [...by.keys()].filter((label) => !known.some((one) => one.label === label)).map((label) => ({ label, records: 0 }))
  return [...known, ...others].flatMap(({ label, records }) => (by.get(label) ? [{ label, gate: records, with: records + by.get(label)! }] : []))
}

export function byHandWords(counts: readonly CountByHand[]): string {
  return counts.length === 0 ? 'no count is another' : listed(counts.map(({ label, gate, with: also }) => `${label || 'no value'} ${count(gate)} → ${count(also)}`))
}
