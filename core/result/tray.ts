/** Trays: which records are meant. Those of the labels are the gate's result; the others are ways to look at it. */
import type { Label } from '../gate/document'
import type { Mark } from '../gate/mark'
import { UNSEEN } from '../gate/scale-gate'
import type { ReadyGate } from '../bulk/decide-gates'
import type { AfterRules } from '../bulk/decisions'
import type { LoweredEntry } from '../rule/rules'
import { textOfValue } from '../value/value-text'
import type { Counts } from './counts'

export type Tray =
  | { kind: 'all' }
  /** Null: labels that rules compute record by record. */
  | { kind: 'label'; label: string | null }
  | { kind: AfterRules }
  /** What a rule takes; what it would take alone; what no other rule would take. */
  | { kind: 'rule' | 'alone' | 'only'; rule: number }
  /** What a part of a rule's condition holds for, found by its way through the condition. */
  | { kind: 'part'; rule: number; way: number[] }
  /** What a named condition holds for, or a part of it. */
  | { kind: 'condition'; name: string; way: number[] }
  /** Where a condition holds that the gate does not have, as the place that a finding speaks of, or values that are chosen. @property rule the one that it is told of @property words how it is called */
  | { kind: 'where'; condition: string; rule: number | null; words?: string }
  | { kind: 'edge'; of: string; at: string; side: EdgeSide }
  /** Exactly on any edge, and within a tolerance beside one. */
  | { kind: 'on an edge' | 'near an edge' }
  | { kind: 'unreadable' | 'outside' }
  | { kind: 'exceptions' }
  /** What two results that are compared give different labels, by the names of where they end. */
  | { kind: 'moved'; from: string; to: string }
  /** Those that are the nearest to losing a label, or else to getting it; as many as that. */
  | { kind: 'nearest'; label: string; isLosing: boolean; most: number }
  /** What meets a highlight, by its name. */
  | { kind: 'highlighted'; name: string }

export type EdgeSide = 'on' | 'short' | 'past'

/** How a label looks. */
export interface LabelLook {
  label: string
  /** `#rrggbb`. */
  colour: string
  mark: Mark
}

export interface LabelTray extends LabelLook {
  tray: Tray & { kind: 'label' }
  /** The rules that give the label, by their places. */
  rules: number[]
}

/** What is written for labels that are computed. */
export const COMPUTED = '(computed)'

/** Every label, also those that no rule gives, in the order of the gate's own list, or else of its rules; computed ones last. */
export function labelTrays({ lowered: { outcomes, rules } }: Pick<ReadyGate, 'lowered'>): LabelTray[] {
  const looks = new Map<string | null, Label | null>(outcomes[0]!.labels.map((label) => [label.value, label]))
  const given = rules.map(({ entries }) => labelOf(entries[0]!))
  for (const label of given) if (label !== null && !looks.has(label)) looks.set(label, null)
  if (given.includes(null)) looks.set(null, null)
  return [...looks].map(([label, look]) => ({
    tray: { kind: 'label', label }, label: label ?? COMPUTED, colour: look?.colour ?? UNSEEN.colour, mark: look?.mark ?? UNSEEN.mark,
    rules: given.flatMap((one, rule) => (one === label ? [rule] : [])),
  }))
}

/** The label that otherwise gives, with its look; null where there is no otherwise. */
export function otherwiseLook({ lowered: { outcomes, otherwise } }: Pick<ReadyGate, 'lowered'>): LabelLook | null {
  if (!otherwise) return null
  const label = labelOf(otherwise[0]!)
  const { colour, mark } = outcomes[0]!.labels.find(({ value }) => value === label) ?? UNSEEN
  return { label: label ?? COMPUTED, colour, mark }
}

/** The label that otherwise gives; null where there is no otherwise. */
export function labelOfOtherwise({ lowered: { otherwise } }: Pick<ReadyGate, 'lowered'>): string | null {
  return otherwise && (labelOf(otherwise[0]!) ?? COMPUTED)
}

/** The label that a rule's entry gives; null where it is computed. */
function labelOf(entry: LoweredEntry): string | null {
  return 'value' in entry ? textOfValue(entry.value) : null
}

/** By label tray, how many records are in it. */
export function labelCounts(trays: readonly LabelTray[], { caught }: Pick<Counts, 'caught'>): number[] {
  return trays.map(({ rules }) => rules.reduce((sum, rule) => sum + caught[rule]!, 0))
}

/** By label, how many records get it, from rules or from otherwise. @param rest the label that otherwise gives; null where it gives none */
export function recordsByLabel(trays: readonly LabelTray[], counts: Pick<Counts, 'caught' | 'otherwise'>, rest: string | null): Map<string, number> {
  return new Map(labelCounts(trays, counts).map((records, at) => [trays[at]!.label, records + (trays[at]!.label === rest ? counts.otherwise : 0)]))
}

/** One text for one tray. */
export function trayName(tray: Tray): string {
  return Object.values(tray).join(' ')
}
