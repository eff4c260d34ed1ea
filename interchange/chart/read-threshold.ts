/** One threshold as people write it: `50–64`, `65+`, `< 20`, `up to 12 %`. */
import { type DecimalMark, readNumber } from '@dime-gate/core/value/read-number'
import type { Bound, Interval } from '@dime-gate/core/gate/interval'

export type Threshold =
  /** A number by itself: where a band begins, or ends; its chart says which. */
  | { kind: 'number'; at: string }
  | ({ kind: 'interval' } & Interval)
  | { kind: 'otherwise' }

export interface ReadThreshold {
  threshold: Threshold
  /** What stands behind the numbers, such as `%` or `cm`; empty where nothing does. */
  unit: string
}

const DASH = String.raw`(?:-|–|—|−|\.\.\.?|…|to|until|through)`
const NUMBER = String.raw`([-−+]?(?:\d[\d.,’' \u00a0\u202f]*\d|\d)(?:[eE][-+]?\d+)?)`
const UNIT = String.raw`\s*(%|‰|[\p{L}°µ][\p{L}°/²³]*)?`
const pattern = (source: string) => new RegExp(`^${source}$`, 'iu')

const RANGE = pattern(String.raw`(?:from |between )?${NUMBER}${UNIT}\s*(?:${DASH}|and)\s*${NUMBER}${UNIT}`)
const ALONE = pattern(`${NUMBER}${UNIT}`)
const FEEL_RANGE = /^([[\](])\s*([^.\s]+(?:\.\d+)?)\s*\.\.\s*(\S+?)\s*([\])[])$/
const OTHERWISE = /^(otherwise|else|rest|the rest|all others?|others?|anything else|everything else)$/i

type End = { side: 'low' | 'high'; included: boolean }
const SIDES: [RegExp, End][] = [
  [/^(?:>=|≥|=>|at least|no less than|not under|not below|from|min\.?|minimum)\s*(.+)$/i, { side: 'low', included: true }],
  [/^(?:<=|≤|=<|at most|up to(?: and including)?|no more than|not over|not above|max\.?|maximum)\s*(.+)$/i, { side: 'high', included: true }],
  [/^(?:>|over|above|more than|greater than|higher than)\s*(.+)$/i, { side: 'low', included: false }],
  [/^(?:<|under|below|less than|lower than|fewer than)\s*(.+)$/i, { side: 'high', included: false }],
  [/^(.+?)\s*(?:\+|and over|and above|and up|and more|or over|or above|or more|or higher|and higher|upwards?)$/i, { side: 'low', included: true }],
  [/^(.+?)\s*(?:and under|and below|and less|or under|or below|or less|or lower|and lower|or fewer)$/i, { side: 'high', included: true }],
]

/** @returns null where the text is no threshold */
export function readThreshold(written: string, mark: DecimalMark): ReadThreshold | null {
  const text = written.trim().replace(/\s+/g, ' ')
  if (text === '' || text.length > 200) return null
  if (OTHERWISE.test(text)) return { threshold: { kind: 'otherwise' }, unit: '' }
  const alone = numberWithUnit(text, mark)
  if (alone) return { threshold: { kind: 'number', at: alone.at }, unit: alone.unit }
  for (const [form, { side, included }] of SIDES) {
    const end = numberWithUnit(form.exec(text)?.[1]?.trim() ?? '', mark)
    if (!end) continue
    const bound: Bound = { at: end.at, included }
    return { threshold: { kind: 'interval', low: side === 'low' ? bound : null, high: side === 'high' ? bound : null }, unit: end.unit }
  }
  return range(text, mark)
}

function range(text: string, mark: DecimalMark): ReadThreshold | null {
  const brackets = FEEL_RANGE.exec(text)
  const [, lowText, lowUnit, highText, highUnit] = brackets ? [null, brackets[2], '', brackets[3], ''] : RANGE.exec(text) ?? []
  const [low, high] = [decimal(lowText ?? '', mark), decimal(highText ?? '', mark)]
  if (low === null || high === null || (lowUnit && highUnit && lowUnit !== highUnit)) return null
  return {
    threshold: { kind: 'interval', low: { at: low, included: !brackets || brackets[1] === '[' }, high: { at: high, included: !brackets || brackets[4] === ']' } },
    unit: highUnit || lowUnit || '',
  }
}

function numberWithUnit(text: string, mark: DecimalMark): { at: string; unit: string } | null {
  const [, number, unit = ''] = ALONE.exec(text) ?? []
  const at = decimal(number ?? '', mark)
  return at === null ? null : { at, unit }
}

function decimal(text: string, mark: DecimalMark): string | null {
  const read = readNumber(text.trim(), mark)
  return read.state === 'readable' ? read.value : null
}
