/** A fix in words, told before it is taken. */
import type { Gate } from '../gate/document'
import type { Fix } from './fixes'
import { listed, placeWords } from './place-words'

/** @param gate as it is before the fix */
export function fixWords(gate: Gate, fix: Fix): string {
  const place = (rule: number) => placeWords(`${gate.form === 'match' ? 'lines' : 'rules'}.${rule}`)
  switch (fix.kind) {
    case 'move rule':
      return fix.to < fix.rule ? `Move ${place(fix.rule)} up, before ${place(fix.to)}.` : `Move ${place(fix.rule)} down, behind ${place(fix.to)}.`
    case 'remove rule':
      return `Remove ${place(fix.rule)}.`
    case 'change condition':
      return `Let ${place(fix.rule)} take ${fix.condition}.`
    case 'add rule':
      return `Add a last rule for ${fix.condition}, with the results of ${place(fix.like)}.`
    case 'rename labels':
      return `Call ${listed(fix.from.map((label) => `“${label}”`), 'and')} “${fix.to}”.`
    case 'hold on blanks':
      return `Say that a blank ${fix.input} holds its records, as it does now.`
  }
}
