/** Records by the label they got, or by why they got none: what counts, charts and comparisons are made of. */
import type { Decisions } from '../bulk/decisions'
import type { Lowered, LoweredEntry, Status } from '../rule/rules'
import { type Bitmap, countBits, unionOf } from '../table/bitmap'
import { textOfValue } from '../value/value-text'

export type TrayKey = { kind: 'label'; label: string } | { kind: Exclude<Status, 'labelled'> }

export interface LabelTray {
  key: TrayKey
  places: Bitmap
  records: number
  /** Of all records, from 0 to 1; 0 where there are none. */
  share: number
}

/**
 * The trays of a decided table: labels in the order of the gate's own list, or else of its rules, empty ones too;
 * then otherwise, unplaced, held and contested.
 */
export function traysOf(gate: Lowered, decisions: Decisions): LabelTray[] {
  const { length, caught } = decisions
  const places = new Map<string, Bitmap[]>(gate.outcomes[0]!.labels.map(({ value }) => [value, []]))
  gate.rules.forEach(({ entries }, rule) => {
    const label = labelOf(entries[0])
    places.set(label, [...(places.get(label) ?? []), caught[rule]!])
  })
  const tray = (key: TrayKey, bitmap: Bitmap): LabelTray => {
    const records = countBits(bitmap)
    return { key, places: bitmap, records, share: length === 0 ? 0 : records / length }
  }
  return [
    ...[...places].map(([label, bitmaps]) => tray({ kind: 'label', label }, unionOf(bitmaps, length))),
    ...(['otherwise', 'unplaced', 'held', 'contested'] as const).map((kind) => tray({ kind }, decisions[kind])),
  ]
}

/** A computed label is told by its rule's expression: its values are only known record by record. */
function labelOf(entry: LoweredEntry | undefined): string {
  return entry && 'value' in entry ? textOfValue(entry.value) : '(computed)'
}

/** One text for one tray. */
export function trayName(key: TrayKey): string {
  return key.kind === 'label' ? `label ${key.label}` : key.kind
}
