/** What rules ask of each input, where they ask nothing but where it lies: the values that divide its axis. */
import { printExpression } from '../expression/print'
import type { Node } from '../expression/tree'
import { folded } from '../gate/form'
import type { Interval } from '../gate/interval'
import { testsOf } from '../rule/condition'
import { foldedNode } from '../rule/forms'
import { nameNode } from '../rule/literal'
import type { Lowered, LoweredInput } from '../rule/rules'
import { blankTest, simpleTest } from '../rule/simple-test'
import { asksForDay } from '../rule/used-inputs'
import { compareValues } from '../value/compare'
import { Decimal } from '../value/number'
import { NANOS_A_DAY } from '../value/temporal'
import { textOfValue, valueFromText } from '../value/value-text'
import type { DateTimeValue, Value, ValueKind } from '../value/value'
import type { FormRefusal } from './form-change'

/** @property values each once, as they are met. @property hasStretches whether more is asked than single values. @property folds whether case and spaces are overlooked */
export interface AskedInput {
  input: LoweredInput
  values: Value[]
  hasStretches: boolean
  folds: boolean
}

const ANY_DAY = { kind: 'date', day: 0 } as const

/** @returns the inputs in the order in which the rules meet them */
export function askedInputs({ rules, inputs }: Lowered): { asked: AskedInput[] } | { refusal: FormRefusal } {
  const asked = new Map<string, { one: AskedInput; texts: Set<string>; folding: Set<boolean> }>()
  for (const [rule, { condition }] of rules.entries()) {
    for (const { tree, text } of testsOf(condition)) {
      const blank = blankTest(tree)
      const simple = blank || asksForDay(tree) ? null : simpleTest(tree, ANY_DAY)
      const subject = subjectOf(blank?.subject ?? simple?.subject)
      const input = subject && inputs.get(subject.name)
      if (!input || input.isSet) return { refusal: { kind: 'test', rule, text } }
      if (!asked.has(input.name)) asked.set(input.name, { one: { input, values: [], hasStretches: false, folds: false }, texts: new Set(), folding: new Set() })
      const { one, texts, folding } = asked.get(input.name)!
      if (!simple) continue
      folding.add(subject.isFolded)
      one.folds = subject.isFolded
      if (folding.size > 1) return { refusal: { kind: 'test', rule, text } }
      for (const piece of simple.pieces) {
        if (!piece.isPoint) one.hasStretches = true
        for (const end of [piece.low, piece.high]) {
          if (end === null || texts.has(textOfValue(end))) continue
          texts.add(textOfValue(end))
          one.values.push(end)
        }
      }
    }
  }
  return { asked: [...asked.values()].map(({ one }) => one) }
}

/** An input, or one whose case and spaces are overlooked. */
function subjectOf(node: Node | undefined): { name: string; isFolded: boolean } | null {
  if (!node) return null
  if (node.kind === 'name') return { name: node.name, isFolded: false }
  const name = innermostName(node)
  return name !== null && printExpression(node) === printExpression(foldedNode(nameNode(name))) ? { name, isFolded: true } : null
}

function innermostName(node: Node): string | null {
  if (node.kind === 'name') return node.name
  return node.kind === 'call' && node.args[0] ? innermostName(node.args[0]) : null
}

/** One value of a part of an axis whose values all get the same. @property stop the place of the dividing value that it is, or comes right after; -1 before all */
export interface Part {
  value: Value
  stop: number
  isOn: boolean
}

/** The parts of an ordered axis, from the lowest: before the first dividing value, on it, between it and the next, and so on; parts without values are left out. */
export function stretchParts(values: readonly Value[]): Part[] {
  const first = values[0]!
  const parts = [{ value: before(first), stop: -1, isOn: false }]
  values.forEach((value, stop) => {
    parts.push({ value, stop, isOn: true }, { value: after(value, values[stop + 1] ?? null), stop, isOn: false })
  })
  return parts.filter(({ value }) => value !== null)
}

/** A value that lies in a stretch of an axis; null where none does. @param kind of the values that its ends are */
export function valueInside({ low, high }: Interval, kind: ValueKind): Value {
  const [least, most] = [low && valueFromText(low.at, kind), high && valueFromText(high.at, kind)]
  if (low?.included) return least
  if (high?.included) return most
  return least === null ? most === null ? null : before(most) : after(least, most)
}

export function ascending(values: readonly Value[]): Value[] {
  return values.toSorted((a, b) => compareValues(a, b) ?? 0)
}

function before(value: Value): Value {
  return moved(value, -1)
}

/** A value between two, or beyond the last; null where there is none. */
function after(value: Value, next: Value): Value {
  if (value instanceof Decimal && next instanceof Decimal) return value.plus(next).div(2)
  const found = moved(value, 1)
  return next === null || (found !== null && compareValues(found, next)! < 0) ? found : null
}

/** The nearest value on one side, or one near by where none is nearest. */
function moved(value: Value, by: 1 | -1): Value {
  if (value instanceof Decimal) return value.plus(by)
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return null
  const one = value as Exclude<Value, null | boolean | string | Decimal | readonly Value[]>
  switch (one.kind) {
    case 'date':
      return { ...one, day: one.day + by }
    case 'years and months duration':
      return { ...one, months: one.months + by }
    case 'days and time duration':
      return { ...one, seconds: one.seconds.plus(new Decimal(by).times('1e-9')) }
    case 'time': {
      const nanos = one.nanos + by
      return nanos < 0 || nanos >= NANOS_A_DAY ? null : { ...one, nanos }
    }
    case 'date and time':
      return movedMoment(one, by)
    default:
      return null
  }
}

function movedMoment(value: DateTimeValue, by: 1 | -1): DateTimeValue {
  const nanos = value.nanos + by
  if (nanos < 0) return { ...value, day: value.day - 1, nanos: NANOS_A_DAY - 1 }
  return nanos >= NANOS_A_DAY ? { ...value, day: value.day + 1, nanos: 0 } : { ...value, nanos }
}

/** A value that is none of these; null where there is none. */
export function anotherValue({ input, values, folds }: AskedInput): Value {
  if (input.type === 'boolean') return [true, false].find((one) => !values.includes(one)) ?? null
  if (input.type !== 'text') return after(ascending(values).at(-1)!, null)
  const known = new Set(values.map((value) => (folds ? folded(value as string) : value)))
  let other = 'another'
  while (known.has(other)) other += ' one'
  return other
}
