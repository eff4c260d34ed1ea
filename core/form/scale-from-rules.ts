import type { Entry, RulesGate, ScaleGate } from '../gate/document'
import { textOfValue } from '../value/value-text'
import { headOf } from './as-rules'
import { ascending, type AskedInput, stretchParts } from './asked'
import type { FormChange, FormRefusal } from './form-change'
import { provenChange, type ReadRules, readRules, samplesOf } from './read-rules'
import { stretchesOf } from './stretches'

/** Rules that ask nothing but where one value lies, as the scale that they make. */
export function scaleFromRules(gate: RulesGate): FormChange<ScaleGate> {
  const read = readRules(gate, 1)
  if ('refusal' in read) return read
  const [asked] = read.asked as [AskedInput]
  if (asked.input.type === 'text' || asked.input.type === 'boolean') return { refusal: { kind: 'values', input: asked.input.name } }
  if (asked.values.length === 0) return { refusal: { kind: 'nothing' } }
  const parts = partsOf(read, asked)
  // What is left over at both ends is off the scale; at one end it is a band.
  const isRest = ({ entries }: PartGiven) => JSON.stringify(entries) === JSON.stringify(read.gate.otherwise)
  const isBeyond = isRest(parts[0]!) && isRest(parts.at(-1)!)
  const withRestOff = parts.map((part) => (isRest(part) ? { ...part, entries: null } : part))
  // What different rules take stays apart, where it can, though they give the same.
  const found = [isBeyond, !isBeyond].flatMap((isRestOff) => [true, false].map((isApart) => scalesWith(read, asked, isRestOff ? withRestOff : parts, isRestOff ? read.gate.otherwise : null, isApart)))
  const candidates = found.flatMap((one) => ('refusal' in one ? [] : one))
  if (candidates.length === 0) return found.find((one) => 'refusal' in one)!
  return provenChange(read, samplesOf([{ name: asked.input.name, values: parts.map(({ value }) => value) }]), candidates)
}

type PartGiven = ReturnType<typeof partsOf>[number]

function partsOf({ probe }: ReadRules, { input, values }: AskedInput) {
  const parts = stretchParts(ascending(values))
  const answers = probe.all(parts.map(({ value }) => new Map([[input.name, value]])))
  return parts.map((part, at) => ({ ...part, entries: answers[at]!.entries, rule: answers[at]!.rule }))
}

/** The scales that these parts make: alike but for what blanks get. */
function scalesWith({ gate, probe }: ReadRules, { input, values }: AskedInput, parts: readonly PartGiven[], otherwise: Entry[] | null, isApart: boolean): ScaleGate[] | { refusal: FormRefusal } {
  const marks = parts.map(({ entries, rule }) => entries && JSON.stringify([entries, isApart && rule]))
  const stretches = stretchesOf(parts, marks, ascending(values), input.name)
  if ('refusal' in stretches) return stretches
  const { groups, ...ends } = stretches
  if (groups.length === 0) return { refusal: { kind: 'nothing' } }
  const firsts = groups.map(([first]) => parts[first!]!)
  const hole = firsts.find(({ entries }) => entries === null)
  if (hole) return { refusal: { kind: 'hole', input: input.name, value: textOfValue(hole.value) } }
  if (firsts.some(({ entries }) => entries!.some((entry) => entry && 'feel' in entry))) return { refusal: { kind: 'computed' } }
  const atBlank = probe.at(new Map()).entries
  const scale = (blank: typeof input.blank, rest = otherwise): ScaleGate => ({
    ...headOf(gate), form: 'scale', on: input.name, ...ends, bands: firsts.map(({ entries }) => ({ entries: entries! })), otherwise: rest,
    inputs: gate.inputs.map((one) => (one.name === input.name ? { ...one, blank } : one)),
  })
  // Rules that speak of blanks become what blanks get.
  return [scale(input.blank), scale('hold'), scale('pass'), ...(atBlank ? [scale('pass', atBlank)] : [])]
}
