/** Rules looked at as a whole: what they ask of which input, and what they give in each part of what is possible. */
import type { Gate, RulesGate } from '../gate/document'
import { isIdle } from '../gate/form'
import { namesUsed } from '../gate/named-conditions'
import { NONE } from '../rule/rules'
import { textOfValue } from '../value/value-text'
import type { Value } from '../value/value'
import { type AskedInput, askedInputs } from './asked'
import type { FormChange, FormLoss, FormRefusal } from './form-change'
import { areSameAnswers, type Probe, probeOf, type Sample } from './probe'

/** @property gate the rules with a last one that takes all turned into otherwise; places are as they were */
export interface ReadRules {
  gate: RulesGate
  probe: Probe
  asked: AskedInput[]
  losses: FormLoss[]
}

/** @param most how many inputs there may be */
export function readRules(gate: RulesGate, most: number): ReadRules | { refusal: FormRefusal } {
  if (/^(collect|rule order|output order)/.test(gate.hitPolicy)) return { refusal: { kind: 'policy', hitPolicy: gate.hitPolicy } }
  const changed = withRestAsOtherwise(gate)
  const probe = probeOf(changed)
  if (!probe) return { refusal: { kind: 'faulty' } }
  const read = askedInputs(probe.lowered)
  if ('refusal' in read) return read
  const { asked } = read
  if (asked.length === 0) return { refusal: { kind: 'nothing' } }
  if (asked.length > most) return { refusal: { kind: 'inputs', most, found: asked.map(({ input }) => input.name) } }
  return { gate: changed, probe, asked, losses: [...wordLosses(gate), ...(changed === gate ? [] : [{ kind: 'otherwise' as const, rule: restOf(gate) }])] }
}

/** The place of a rule that takes whatever is left; NONE where there is none. */
function restOf({ rules, otherwise, hitPolicy }: RulesGate): number {
  if (hitPolicy !== 'first') return NONE
  const last = rules.findLastIndex((rule) => !isIdle(rule))
  return otherwise === null && last >= 0 && /^(-|true)$/.test(rules[last]!.condition.trim()) ? last : NONE
}

function withRestAsOtherwise(gate: RulesGate): RulesGate {
  const rest = restOf(gate)
  return rest === NONE ? gate : { ...gate, otherwise: gate.rules[rest]!.entries, rules: gate.rules.with(rest, { ...gate.rules[rest]!, isOff: true }) }
}

function wordLosses({ rules, conditions, inputs }: RulesGate): FormLoss[] {
  const places = (is: (rule: RulesGate['rules'][number]) => boolean) => rules.flatMap((rule, at) => (is(rule) ? [at] : []))
  const [notes, idle] = [places(({ note }) => note !== ''), places(isIdle)]
  const named = (conditions ?? []).map(({ name }) => name)
  const names = [...inputs.map(({ name }) => name), ...named]
  const usesNames = rules.some(({ condition }) => namesUsed(condition, names).some((name) => named.includes(name)))
  return [...(notes.length > 0 ? [{ kind: 'notes' as const, rules: notes }] : []), ...(idle.length > 0 ? [{ kind: 'idle' as const, rules: idle }] : []), ...(usesNames ? [{ kind: 'names' as const }] : [])]
}

/** A value of every part of each axis, and blank: together they stand for all that a record can be. */
export function samplesOf(axes: readonly { name: string; values: readonly Value[] }[]): Sample[] {
  return axes.reduce<Map<string, Value>[]>((samples, { name, values }) => samples.flatMap((sample) => [...values, null].map((value) => new Map([...sample, [name, value]]))), [new Map()])
}

/**
 * The first of these gates that gives every sample what the rules give.
 * @returns also what is lost by it; or, where none does, how the first differs
 */
export function provenChange<Form extends Gate>({ gate, probe, losses }: ReadRules, samples: readonly Sample[], candidates: readonly Form[]): FormChange<Form> {
  let refusal: FormRefusal | null = null
  const was = probe.all(samples)
  for (const candidate of candidates) {
    const got = probeOf(candidate)?.all(samples)
    const odd = got ? got.findIndex((one, at) => !areSameAnswers(was[at]!, one)) : NONE
    if (got && odd === NONE) {
      const reached = new Set(was.map(({ rule }) => rule))
      const unreached = gate.rules.flatMap((rule, at) => (isIdle(rule) || reached.has(at) ? [] : [at]))
      return { gate: candidate, losses: [...losses, ...(unreached.length > 0 ? [{ kind: 'unreached' as const, rules: unreached }] : [])] }
    }
    refusal ??= got ? { kind: 'differs', at: [...samples[odd]!].map(([input, value]) => ({ input, value: value === null ? null : textOfValue(value) })), was: was[odd]!.got, would: got[odd]!.got } : { kind: 'faulty' }
  }
  return { refusal: refusal ?? { kind: 'faulty' } }
}
