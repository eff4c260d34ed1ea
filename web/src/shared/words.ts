/** Words for what core says in data. */
import type { Table } from '@dime-gate/contract/table'
import type { ColumnType } from '@dime-gate/core/value/read-cell'
import type { Refusal } from '@dime-gate/core/gate/edit-cuts'
import type { Bound, Interval } from '@dime-gate/core/gate/interval'
import type { Gate, GridGate, GridSide } from '@dime-gate/core/gate/document'
import type { CellPlace } from '@dime-gate/core/gate/edit-grid'
import { cellOfRule, labelGiven } from '@dime-gate/core/gate/entries'
import { bandInterval } from '@dime-gate/core/gate/form'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import type { Reason } from '@dime-gate/core/result/reason'
import { COMPUTED, type Tray } from '@dime-gate/core/result/tray'
import type { ValueKind } from '@dime-gate/core/value/value'
import { durationWords } from './duration-words'
import { date, number } from './format'

/** A stretch in words: `12 to under 25`, `40 and over`, `any value`. The unit stands in the column's head. */
export function intervalWords({ low, high }: Interval): string {
  if (low && high) return `${low.included ? '' : 'over '}${placeWords(low.at)} to ${high.included ? '' : 'under '}${placeWords(high.at)}`
  if (low) return low.included ? `${placeWords(low.at)} and over` : `over ${placeWords(low.at)}`
  if (high) return high.included ? `up to ${placeWords(high.at)}` : `under ${placeWords(high.at)}`
  return 'any value'
}

/** A value in canonical text, as people read it. */
export function valueWords(text: string): string {
  if (/^-?\d+(\.\d+)?$/.test(text)) return number(text)
  return /^\d{4}-\d\d-\d\d$/.test(text) ? date(text) : text
}

/** A value that lies along a line. No text does, so that a code such as `P12D` is never taken for twelve days. */
export function placeWords(at: string): string {
  return durationWords(at) ?? valueWords(at)
}

const KIND_WORDS: Record<ValueKind, string> = {
  number: 'a number', text: 'a text', boolean: 'a yes or no', date: 'a date', time: 'a time of day', 'date and time': 'a date and time',
  'days and time duration': 'a length of time', 'years and months duration': 'a length of time',
}

/** @param label what the record got; null where it got nothing */
export function reasonWords(reason: Reason, { inputs }: Pick<Gate, 'inputs'>, label: string | null): string {
  // With one input everybody knows which is meant.
  const of = (input: string) => (inputs.length === 1 ? '' : `${input} `)
  const so = label === null ? '' : `, so ${label}`
  switch (reason.kind) {
    case 'held':
      return inputs.length === 1 ? 'blank, so held' : `held for ${listed(reason.inputs)}`
    case 'unreadable': {
      const kind = inputs.find(({ name }) => name === reason.input)?.type ?? 'number'
      return `${of(reason.input)}“${reason.text}” is not ${KIND_WORDS[kind]}`
    }
    case 'changed':
      return `was ${reason.from}`
    case 'highlighted':
      return reason.name
    case 'contested':
      return 'rules that give different labels are true'
    case 'unplaced':
      return 'no rule takes it'
    case 'off the scale':
      return `${of(reason.input)}${reason.end === 'floor' ? 'below the floor' : 'beyond the ceiling'} of ${number(reason.at)}`
    case 'outside':
      return `${of(reason.input)}${valueWords(reason.value)} is not expected`
    case 'edge':
      return reason.side === 'on' ? `${of(reason.of)}exactly ${placeWords(reason.at)}${so}` : `${of(reason.of)}just ${reason.side === 'short' ? 'short of' : 'past'} ${placeWords(reason.at)}${so}`
  }
}

export function isTrouble({ kind }: Reason): boolean {
  return kind === 'unreadable' || kind === 'off the scale' || kind === 'outside' || kind === 'contested' || kind === 'unplaced'
}

export function trayWords(tray: Tray, gate: Gate): string {
  switch (tray.kind) {
    case 'label':
      return tray.label ?? COMPUTED
    case 'rule':
      return partWords(gate, tray.rule)
    case 'alone':
      return `rule ${tray.rule + 1} alone`
    case 'only':
      return `rule ${tray.rule + 1} and no other`
    case 'part':
      return `a part of rule ${tray.rule + 1}`
    case 'condition':
      return tray.way.length === 0 ? `${tray.name} holds` : `a part of ${tray.name}`
    case 'where':
      return tray.words ?? 'where the finding lies'
    case 'edge': {
      const of = gate.inputs.length === 1 ? '' : `${tray.of} `
      return tray.side === 'on' ? `${of}on the cut at ${placeWords(tray.at)}` : `${of}just ${tray.side === 'short' ? 'short of' : 'past'} ${placeWords(tray.at)}`
    }
    case 'moved': {
      const words = (name: string) => name.replace(/^label /, '')
      return `from ${words(tray.from)} to ${words(tray.to)}`
    }
    case 'nearest':
      return `nearest to ${tray.isLosing ? 'leaving' : 'getting'} ${tray.label}`
    case 'highlighted':
      return tray.name
    case 'on an edge':
      return 'on a cut'
    case 'near an edge':
      return 'beside a cut'
    case 'outside':
      return 'not expected'
    default:
      return tray.kind
  }
}

/** What takes a record, by the place of its rule. */
function partWords(gate: Gate, rule: number): string {
  switch (gate.form) {
    case 'scale':
      return bandsOf(gate)[rule]?.label ?? 'that band'
    case 'match':
      return `in ${labelGiven(gate.lines[rule]?.entries ?? []) ?? 'that tray'}`
    case 'grid': {
      const place = cellOfRule(gate, rule)
      return place ? sideWords(gate, place) : 'that cell'
    }
    case 'rules':
      return `taken by rule ${rule + 1}`
  }
}

/** A line of a grid's side, in words. */
export function lineWords(side: GridSide, line: number): string {
  if (side.kind === 'scale') return intervalWords(bandInterval(side, line))
  const values = side.lines[line]!.map((value) => valueWords(value))
  return values.length === 0 ? 'no value' : values.join(', ')
}

function sideWords({ down, across }: GridGate, [line, column]: CellPlace): string {
  return `${down.on} ${lineWords(down, line)}, ${across.on} ${lineWords(across, column)}`
}

/** What a run is called: by its name, or by its gate and number. */
export function runTitle({ name, gateName, number: of, isDraft }: { name: string | null; gateName: string; number: number; isDraft?: boolean }): string {
  return isDraft ? `${gateName}, the draft` : name ?? `${gateName}, run ${of}`
}

export function listed(all: readonly string[]): string {
  return all.length < 2 ? all.join('') : `${all.slice(0, -1).join(', ')} and ${all.at(-1)}`
}

/** @param say how a place on the line is told */
export function refusalWords(refusal: Refusal, say: (at: string) => string = number): string {
  if (refusal.code === 'beyond-cuts') {
    return `The ${refusal.end} has to lie ${refusal.end === 'floor' ? 'below' : 'above'} ${say(refusal.cut)}.`
  }
  const side = (bound: Bound | null, word: string) => (bound ? `${word} ${say(bound.at)}` : null)
  const limits = [side(refusal.low, 'above'), side(refusal.high, 'below')].filter((text) => text !== null)
  return `This cut has to lie ${limits.join(' and ')}.`
}

export const TYPE_WORDS: Record<ColumnType, string> = {
  number: 'number', percent: 'percent', date: 'date', text: 'text', boolean: 'yes or no',
}

export const FORM_WORDS: Record<Gate['form'], string> = { scale: 'scale', rules: 'rules', match: 'match list', grid: 'grid' }

export function withUnit(name: string, unit: string): string {
  return unit ? `${name} (${unit})` : name
}

/** How near to a cut is near: in the unit, or in parts of the cut. */
export function toleranceText(tolerance: string, unit: string): string {
  if (tolerance.endsWith('%')) return `${number(tolerance.slice(0, -1))} % of it`
  return unit ? `${number(tolerance)} ${unit}` : number(tolerance)
}

/** What a record of a table of groups is, so that nobody takes it for one of what is beneath; nothing for any other table. */
export function groupWords({ rollUp, columns }: Pick<Table, 'rollUp' | 'columns'>): string {
  const names = rollUp ? rollUp.by.flatMap(({ own }) => columns.filter(({ id }) => id === own).map(({ name }) => name.toLowerCase())) : []
  return names.length === 0 ? '' : `, one for each ${names.join(' and ')}`
}
