/** What stands along a cut line, as people read and write it: numbers, days, or lengths of time. The line itself knows numbers alone. */
import { isLineKind, type LineKind, movedDay, movedMonths, numberOnLine, roundDay, roundMonths, textOnLine } from '@dime-gate/core/gate/scale-axis'
import type { ScaleGate, GridGate } from '@dime-gate/core/gate/document'
import { Decimal, type DecimalText } from '@dime-gate/core/value/number'
import { readDate } from '@dime-gate/core/value/read-date'
import { type ScaleLinear, scaleLinear } from 'd3-scale'
import { utcTicks } from 'd3-time'
import { monthWords, readMonths } from '../shared/duration-words'
import { date, NUMBER_WORDS, number } from '../shared/format'

export interface AxisWords {
  kind: LineKind
  say(at: DecimalText): string
  /** What somebody typed; null where it is nothing of the kind. */
  read(typed: string): DecimalText | null
  /** What is told of a text that is nothing of the kind. */
  wrong: string
  ticks(along: ScaleLinear<number, number>, about: number): { value: number; label: string }[]
  /** A value where the hand is, as round as what it can aim at. */
  round?: (value: number, step: number) => number
  /** So many steps on, where they are not all of one size. */
  moved?: (value: number, steps: number, step: number) => number
  /** The widest that one is, in pixels. */
  width: number
}

const NUMBERS: AxisWords = {
  ...NUMBER_WORDS, kind: 'number', wrong: 'is no number',
  ticks: (along, about) => along.ticks(about).map((value) => ({ value, label: number(along.tickFormat(10)(value).replaceAll(',', '').replace('\u2212', '-')) })),
}

const DAY = 86_400_000
const DATES: AxisWords = {
  kind: 'date', say: (at) => date(textOnLine(at, 'date')), wrong: 'is no date', width: 98, round: roundDay, moved: movedDay,
  read(typed) {
    const reading = readDate(typed.trim(), 'day')
    return reading.state === 'readable' ? numberOnLine(reading.value, 'date') : null
  },
  ticks(along, about) {
    const [from, to] = along.domain() as [number, number]
    const ticks = utcTicks(new Date(from * DAY), new Date(to * DAY), Math.max(2, Math.floor(about * 0.7)))
    const areYears = ticks.every((tick) => tick.getUTCMonth() === 0 && tick.getUTCDate() === 1)
    return ticks.map((tick) => ({ value: tick.getTime() / DAY, label: areYears ? String(tick.getUTCFullYear()) : date(tick.toISOString().slice(0, 10)) }))
  },
}

const LENGTHS: AxisWords = {
  kind: 'days and time duration', say: (at) => `${number(new Decimal(at).toDecimalPlaces(2).toFixed())} d`, read: (typed) => NUMBER_WORDS.read(typed.replace(/\s*d(ays?)?\s*$/i, '')), wrong: 'is no number of days', width: 64,
  ticks: (along, about) => NUMBERS.ticks(along, about).map(({ value, label }) => ({ value, label: `${label} d` })),
}

/** Ages and terms: told and typed in years and months, marked along the line in years. */
const MONTHS: AxisWords = {
  kind: 'years and months duration', say: (at) => monthWords(Number(at), 'short'), read: readMonths, wrong: 'is no number of years and months', width: 66, round: roundMonths, moved: movedMonths,
  ticks: (along, about) => {
    const [from, to] = along.domain() as [number, number]
    return scaleLinear().domain([from / 12, to / 12]).ticks(about).filter((years) => Number.isInteger(years * 12)).map((years) => ({ value: years * 12, label: monthWords(years * 12, 'short') }))
  },
}

const WORDS: Record<LineKind, AxisWords> = { number: NUMBERS, date: DATES, 'days and time duration': LENGTHS, 'years and months duration': MONTHS }

export function axisWords(kind: LineKind): AxisWords {
  return WORDS[kind]
}

/** The kind of what a scale, or the side of a grid, is on; a number where that cannot be said. */
export function lineKindOf({ inputs }: Pick<ScaleGate | GridGate, 'inputs'>, on: string): LineKind {
  const kind = inputs.find(({ name }) => name === on)?.type
  return kind !== undefined && isLineKind(kind) ? kind : 'number'
}
