/** One threshold as people write it: `50–64`, `65+`, `< 20`, `up to 12 %`. */
import { type DecimalMark, readNumber } from '@dime-gate/core/value/read-number'
import type { Bound, Interval } from '@dime-gate/core/gate/interval'
import { compareDecimals } from '@dime-gate/core/value/number'

export type Threshold =
  /** A number by itself: where a band begins, or ends; its chart says which. */
  | { kind: 'number'; at: string }
  | ({ kind: 'interval' } & Interval)
  | { kind: 'otherwise' }

export interface ReadThreshold {
  threshold: Threshold
  /** What stands behind the numbers, such as `%` or `cm`; empty where nothing does. */
  unit: string
  /** What is compared, where it is written out, as in `Decay >= 40`; empty where it is not. */
  name: string
}

const DASH = String.raw`(?:-|–|—|−|\.\.\.?|…|to|until|through)`
const NUMBER = String.raw`([-−+]?[$£€¥]?(?:\d[\d.,’' \u00a0\u202f]*\d|\d)(?:[eE][-+]?\d+)?)`
/** A word between two numbers is not the unit of the first. */
const UNIT = String.raw`\s*(%|‰|(?!(?:to|and|until|through|or)\b)[\p{L}°µ][\p{L}°/²³]*)?`
/** Thousands and millions as people shorten them: a unit that changes the number, which is not guessed at. */
const FACTORS = /^(k|mn|mio|bn)$/i
const pattern = (source: string) => new RegExp(`^${source}$`, 'iu')

const RANGE = pattern(String.raw`(?:from |between )?${NUMBER}${UNIT}\s*(?:${DASH}|and)\s*${NUMBER}${UNIT}`)
const ALONE = pattern(`${NUMBER}${UNIT}`)
const BRACKETS = /^([[\](])\s*([^.\s,;]+(?:\.\d+)?)\s*(?:\.\.|[,;])\s*(\S+?)\s*([\])[])$/
const NAME = String.raw`[\p{L}_][\p{L}\p{N}_ ]*?`
/** `5 ≤ x < 10`, with any word, or none, for what lies between. */
const BETWEEN = pattern(String.raw`${NUMBER}${UNIT}\s*(<=|≤|<)\s*(${NAME})?\s*(<=|≤|<)\s*${NUMBER}${UNIT}`)
/** `Decay >= 40`: what is compared, and the rest. */
const NAMED = new RegExp(String.raw`^(${NAME})\s*((?:>=|≥|=>|<=|≤|=<|>|<).*)$`, 'u')
/** `>= 5 and < 10`, `from 5 to less than 10`, `5 to under 10`. */
const TWO_SIDED = new RegExp(String.raw`^(.+?)\s*(?:,|\band\b|\bbut\b|\bto\b)\s*((?:<=|≤|<|at most|up to|less than|under|below|no more than|${NAME}\s*(?:<=|≤|<)).+)$`, 'iu')
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
  if (OTHERWISE.test(text)) return { threshold: { kind: 'otherwise' }, unit: '', name: '' }
  const alone = numberWithUnit(text, mark)
  if (alone) return { threshold: { kind: 'number', at: alone.at }, unit: alone.unit, name: '' }
  const [, name = '', compared = text] = NAMED.exec(text) ?? []
  for (const [form, { side, included }] of SIDES) {
    const end = numberWithUnit(form.exec(compared)?.[1]?.trim() ?? '', mark)
    if (!end) continue
    const bound: Bound = { at: end.at, included }
    return { threshold: { kind: 'interval', low: side === 'low' ? bound : null, high: side === 'high' ? bound : null }, unit: end.unit, name }
  }
  return range(text, mark)
}

function range(text: string, mark: DecimalMark): ReadThreshold | null {
  const brackets = BRACKETS.exec(text)
  const between = BETWEEN.exec(text)
  const isBelow = (sign: string) => sign === '<'
  if (between) return interval([between[1]!, between[2] ?? '', !isBelow(between[3]!)], [between[6]!, between[7] ?? '', !isBelow(between[5]!)], mark, between[4])
  if (brackets) return interval([brackets[2]!, '', brackets[1] === '['], [brackets[3]!, '', brackets[4] === ']'], mark)
  const [, lowText, lowUnit, highText, highUnit] = RANGE.exec(text) ?? []
  if (lowText && highText) return interval([lowText, lowUnit ?? '', true], [highText, highUnit ?? '', true], mark)
  return twoSided(text, mark)
}

type WrittenEnd = [text: string, unit: string, included: boolean]

/** Ends the wrong way round, as in 100–90, are meant as what lies between them. */
function interval(first: WrittenEnd, second: WrittenEnd, mark: DecimalMark, name = ''): ReadThreshold | null {
  const [a, b] = [decimal(first[0], mark), decimal(second[0], mark)]
  const units = [first, second].map(([text, unit]) => unit || currencyOf(text))
  if (a === null || b === null || units.some((unit) => FACTORS.test(unit)) || (units[0] && units[1] && units[0] !== units[1])) return null
  const ends = [{ at: a, included: first[2] }, { at: b, included: second[2] }] as const
  const [low, high] = compareDecimals(a, b) > 0 ? [ends[1], ends[0]] : ends
  return { threshold: { kind: 'interval', low, high }, unit: units[1] || units[0] || '', name }
}

function twoSided(text: string, mark: DecimalMark): ReadThreshold | null {
  const [, lowText = '', highText = ''] = TWO_SIDED.exec(text) ?? []
  const [low, high] = [lowText, highText].map((side) => (side === '' ? null : readThreshold(side, mark)))
  if (!low || !high || high.threshold.kind !== 'interval' || high.threshold.low || (low.unit && high.unit && low.unit !== high.unit) || (low.name && high.name && low.name !== high.name)) return null
  const from = low.threshold.kind === 'number' ? { at: low.threshold.at, included: true } : low.threshold.kind === 'interval' && !low.threshold.high ? low.threshold.low : null
  return from && { threshold: { kind: 'interval', low: from, high: high.threshold.high }, unit: high.unit || low.unit, name: low.name || high.name }
}

function currencyOf(text: string): string {
  return /[$£€¥]/.exec(text)?.[0] ?? ''
}

function numberWithUnit(text: string, mark: DecimalMark): { at: string; unit: string } | null {
  const [, number, unit = ''] = ALONE.exec(text) ?? []
  const at = decimal(number ?? '', mark)
  return at === null || FACTORS.test(unit) ? null : { at, unit: unit || currencyOf(number!) }
}

function decimal(text: string, mark: DecimalMark): string | null {
  const read = readNumber(text.trim().replace(/[$£€¥]/, ''), mark)
  return read.state === 'readable' ? read.value : null
}
