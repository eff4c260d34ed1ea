/** A why on one line. */
import type { Why } from '@dime-gate/core/decide/why'
import { EITHER, FALSE, NULL, TRUE } from '@dime-gate/core/decide/verdict'
import { textOfValue } from '@dime-gate/core/value/value-text'

/** `Decay 31; Lean blank | 1 Decay < 12: no | 2 Decay in [12..40): yes`, and what a held record waits for. */
export function whyText({ inputs, rules, decision }: Why): string {
  const seen = inputs.map(({ name, value }) => `${name} ${value === null ? 'blank' : textOfValue(value)}`).join('; ')
  const walked = rules.map(({ rule, verdict, tests }) => {
    const parts = tests.length === 1 ? tests[0]!.text : tests.map((test) => `${test.text} (${verdictWord(test.verdict)})`).join(', ')
    return `${rule + 1} ${parts === '' ? 'every record' : parts}: ${verdictWord(verdict)}`
  })
  const waits = decision.missing.length > 0 ? [`held for ${decision.missing.join(', ')}`] : []
  return [seen, ...walked, ...waits].join(' | ')
}

function verdictWord(verdict: number): string {
  switch (verdict) {
    case TRUE:
      return 'yes'
    case FALSE:
      return 'no'
    case EITHER:
      return 'open'
    case NULL:
      return 'unknown'
    default:
      return (verdict & TRUE) !== 0 ? 'open' : 'no'
  }
}
