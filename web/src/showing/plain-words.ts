/** A gate in plain words, for a reader who has never seen it, nor this program. */
import type { Entry, Gate, Input } from '@dime-gate/core/gate/document'
import { conditionWordsOf } from '../conditions/sentence-words'
import { entryWords, ruleWords } from '../rules/rule-words'
import { listed, withUnit } from '../shared/words'

/** @property rules one line each, those that take nothing left out */
export interface PlainParts {
  before: string[]
  rules: string[]
  rest: string
  after: string[]
}

/** @returns lines of text, with an empty one between paragraphs */
export function plainWords(gate: Gate): string {
  const { before, rules, rest, after } = plainParts(gate)
  const [order, ...first] = before.toReversed()
  return `${[...first.toReversed(), [order, ...rules.map((line, at) => `${at + 1}. ${line}`), rest].join('\n'), ...after].join('\n\n')}\n`
}

export function plainParts(gate: Gate): PlainParts {
  const words = conditionWordsOf(gate)
  const isRules = gate.form === 'rules'
  const rules = ruleWords(gate).filter((_, at) => !isRules || !(gate.rules[at]!.isOff ?? gate.rules[at]!.condition.trim() === ''))
  const lines = rules.map(({ takes, entries, note }) => {
    const condition = isRules ? (takes.trim() === '-' ? 'any record' : words(takes)) : takes
    return `${given(gate, entries)}: ${condition}.${note ? ` (${note})` : ''}`
  })
  const named = (gate.conditions ?? []).filter(({ feel }) => feel.trim() !== '').map(({ name, feel }) => `“${name}” holds where ${words(feel)}.`)
  return {
    before: [gate.name, `Each record gets a label by what is known of it: ${listed(gate.inputs.map(inputWords)) || 'nothing'}.`, orderWords(gate)],
    rules: lines,
    rest: gate.otherwise ? `Otherwise: ${given(gate, gate.otherwise)}.` : 'A record that none of these takes gets no label.',
    after: [
      ...(named.length > 0 ? [named.join('\n')] : []),
      blankWords(gate),
      ...(JSON.stringify(gate).includes('today()') ? ['The as-of date is the day that the result is made for, whatever day it is read on.'] : []),
    ],
  }
}

function orderWords(gate: Gate): string {
  if (gate.form !== 'rules') return gate.form === 'scale' ? `What counts is where ${gate.on} lies:` : 'What counts:'
  switch (gate.hitPolicy) {
    case 'first':
      return 'The rules are gone through from the top; the first that holds decides:'
    case 'unique':
    case 'any':
    case 'priority':
      return 'Of these rules one decides, whatever their order:'
    default:
      return `All rules that hold count together (${gate.hitPolicy}):`
  }
}

function given({ outcomes }: Gate, entries: readonly Entry[]): string {
  return entries.flatMap((entry, at) => (at > 0 && entry === null ? [] : [at === 0 ? entryWords(entry) || 'no label' : `${outcomes[at]!.name} ${entryWords(entry)}`])).join(', ')
}

function inputWords({ name, unit, source, precision }: Input): string {
  const rounded = precision.kind === 'as measured' ? '' : `, ${precision.kind === 'truncated' ? 'cut off' : 'rounded'} to ${precision.places} ${precision.places === 1 ? 'place' : 'places'}`
  if (source.kind === 'figure') return `${withUnit(name, unit)}, which is ${source.feel}${rounded}`
  if (source.kind === 'gate') return `${name} (what “${source.gate}” gives)`
  return `${withUnit(name, unit)}${rounded}`
}

function blankWords({ inputs }: Gate): string {
  const passing = inputs.filter(({ blank }) => blank === 'pass').map(({ name }) => name)
  const held = 'A record of which a value is missing that could change its label gets none; it waits until the value is known.'
  return passing.length === 0 ? held : `${held} Only where ${listed(passing)} ${passing.length === 1 ? 'is' : 'are'} missing it does not wait: what asks for ${passing.length === 1 ? 'it' : 'them'} counts as not true.`
}
