/** Words for exceptions: their kinds, in one line why each is here, and what became of it. */
import type { Basis, Exception, ExceptionState } from '@dime-gate/contract/review'
import type { Run } from '@dime-gate/contract/run'
import type { ExceptionKind } from '@dime-gate/core/result/exception'
import { listed, reasonWords, toleranceText, valueWords } from '../shared/words'

export const KIND_WORDS: Record<ExceptionKind | 'lapsed', { name: string; remark: string }> = {
  lapsed: { name: 'Lapsed', remark: 'what they were settled for has changed' },
  unreadable: { name: 'Unreadable', remark: 'a text where a value should be' },
  contested: { name: 'Contested', remark: 'rules with different labels are true' },
  unplaced: { name: 'Unplaced', remark: 'no rule takes them' },
  held: { name: 'Held', remark: 'a missing value decides' },
  outside: { name: 'Not expected', remark: 'beyond what the input expects' },
  'on an edge': { name: 'On a cut', remark: 'a value equals a cut' },
  'near an edge': { name: 'Beside a cut', remark: 'within the tolerance' },
  changed: { name: 'Changed', remark: 'another label than in the run before' },
  highlighted: { name: 'Highlighted', remark: 'by a condition of your own' },
  overridden: { name: 'Overridden', remark: 'given another label by hand' },
}

export const STATE_WORDS: Record<ExceptionState, string> = { open: 'open', lapsed: 'lapsed', settled: 'settled', overridden: 'overridden', corrected: 'corrected' }

/** Who the record is; its number where nothing else tells. */
export function whoOf({ who, record }: Pick<Exception, 'who' | 'record'>): string {
  return who.filter(Boolean).join(', ') || `record ${record}`
}

type Words = Pick<Exception, 'reasons' | 'landing' | 'basis'>

/** Why somebody should look at it: the value first, where reasons speak of one. @param run of which it is; null as long as that is not here */
export function whyHere({ reasons, landing, basis }: Words, run: Pick<Run, 'gate'> | null): string {
  const label = landing.kind === 'label' ? landing.label : null
  const inputs = run?.gate.inputs ?? []
  const words = reasons.map((reason) => {
    const value = reason.kind === 'edge' ? basis.values[reason.of] : reason.kind === 'off the scale' ? basis.values[reason.input] : undefined
    // What it got stands beside it already.
    const said = reasonWords(reason, { inputs }, reason.kind === 'edge' ? null : label)
    return value === null || value === undefined || said.includes(valueWords(value)) ? said : `${valueWords(value)}, ${said}`
  })
  return words.length === 0 ? 'given another label by hand' : words.join('; ')
}

/** How an exception is no longer what its mark was made for: told where it lapsed. */
export function whatChanged(then: Basis, now: Basis): string[] {
  const words = (text: string | null | undefined) => (text === null || text === undefined || text === '' ? 'blank' : valueWords(text))
  const values = Object.keys(then.values).filter((input) => then.values[input] !== now.values[input]).map((input) => `${input} ${words(then.values[input])} → ${words(now.values[input])}`)
  const landing = (text: string) => text.replace(/^=/, '') || 'no value'
  const label = then.landed === now.landed ? [] : [`${landing(then.landed)} → ${landing(now.landed)}`]
  const rule = then.rule === now.rule ? [] : [`the rule: ${then.rule ?? 'none'} → ${now.rule ?? 'none'}`]
  return [...values, ...label, ...rule]
}

/** What its mark says, and when that stops to hold. */
export function markWords({ mark, state, basis, keys }: Pick<Exception, 'mark' | 'state' | 'basis' | 'keys'>): string {
  if (!mark) return ''
  const by = mark.by === '' ? '' : ` by ${mark.by}`
  const note = mark.note === '' ? '' : `: ${mark.note}`
  const to = mark.outcomes ? ` to ${Object.values(mark.outcomes).map((value) => value ?? 'nothing').join(', ')}` : ''
  if (state !== 'lapsed') return `${mark.kind}${to}${by}${note}`
  const changed = whatChanged(mark.basis, basis)
  const why = changed.length > 0 ? changed.join(', ') : keys.some((key) => !mark.keys.includes(key)) ? 'there is another reason now' : 'it is another now'
  return `was ${mark.kind}${to}${by}${note} · ${why}`
}

/** Until when what is done now holds. @param inputs whose values the reasons speak of */
export function holdsUntil(inputs: readonly string[]): string {
  const values = inputs.length === 0 ? 'a value' : inputs.length > 3 ? 'one of its values' : listed(inputs)
  return `holds until ${values}, the label or its rule changes`
}

/** How near to a cut is beside it, by input and in its unit, of the gates of some runs; empty where none says so. */
export function toleranceWords(runs: readonly Pick<Run, 'gate'>[]): string {
  const said = runs.flatMap(({ gate }) => gate.inputs.flatMap(({ name, tolerance, unit }) => (tolerance === null ? [] : [`${name} within ${toleranceText(tolerance, unit)}`])))
  return [...new Set(said)].join(', ')
}
