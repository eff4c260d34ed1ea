/** What a run kept, as the result that its gate gave: shown as it was made, not made again. */
import type { RunBatch } from '@dime-gate/contract/column-wire'
import { AFTER_RULES, codeOf, decisionsOf } from '@dime-gate/core/bulk/decisions'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { STATUSES } from '@dime-gate/core/rule/rules'
import type { ScaleResult } from '@dime-gate/core/run/scale-result'
import { bitmapOf } from '@dime-gate/core/table/bitmap'

export function keptResult({ status, band, cut }: Pick<RunBatch, 'status' | 'band' | 'cut'>, { bands, cuts }: Pick<ScaleGate, 'bands' | 'cuts'>): ScaleResult {
  const { length } = status
  const codes = Array.from(status, (code, at) => codeOf(STATUSES[code]!, band[at]!, bands.length))
  const counts = Array<number>(bands.length + AFTER_RULES.length).fill(0)
  for (const code of codes) counts[code]!++
  const onCut = cuts.map((): number[] => [])
  cut.forEach((index, at) => onCut[index]?.push(at))
  return { decisions: decisionsOf(length, bands.length, counts, (at) => codes[at]!), onCut: onCut.map((places) => bitmapOf(places, length)) }
}
