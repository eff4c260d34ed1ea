/** Findings in words: the values of an example do not outlive the way from a worker to the page. */
import type { Question } from '@dime-gate/contract/question'
import { gatesAsked } from '@dime-gate/contract/question'
import type { Finding, Severity } from '@dime-gate/core/finding/finding'
import { exampleWords, findingWords } from '@dime-gate/core/finding/finding-words'
import { fixWords } from '@dime-gate/core/finding/fix-words'
import { applyFix, fixFor, keyOf } from '@dime-gate/core/finding/fixes'
import { findingsOf } from '@dime-gate/core/finding/findings'
import { recordTakenBy } from '@dime-gate/core/finding/taken'
import type { Gate } from '@dime-gate/core/gate/document'
import type { Lowered } from '@dime-gate/core/rule/rules'
import { parseDate } from '@dime-gate/core/value/temporal'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { conditionWordsOf } from '../conditions/sentence-words'

/** As much of a finding as a gate keeps. */
export const LONGEST_KEPT = 4000

export interface ToldFinding {
  severity: Severity
  words: string
  example: string
  /** The place that it speaks of, as a condition; empty where it speaks of none. */
  where: string
  /** Places of the rules that it is about, the one that it is told of first. */
  rules: number[]
  /** Tells it from others, also after rules have moved. */
  key: string
}

export interface ToldFindings {
  told: ToldFinding[]
  /** So many more of the same kinds. */
  more: number
}

/** One step that mends a finding, and what the gate is after it. */
export interface ToldFix {
  words: string
  gate: Gate
}

export function told(findings: readonly Finding[], gate: Gate, { rules }: Pick<Lowered, 'rules'>): ToldFinding[] {
  const paths = rules.map(({ path }) => path)
  const words = conditionWordsOf(gate)
  // Rules are told apart by what they say, not by where they stand.
  const own = (rule: number) => (gate.form === 'rules' ? gate.rules[rule]!.condition : paths[rule])
  return findings.map((finding) => ({
    severity: finding.severity,
    words: findingWords(finding, paths, words),
    example: exampleWords(finding),
    where: finding.condition,
    rules: finding.rules,
    key: JSON.stringify([keyOf(finding), finding.rules.map(own)]).slice(0, LONGEST_KEPT),
  }))
}

export type Analysed = Pick<Question, 'gate' | 'feeding'> & { asOf: string }

/** What is known of one gate after the other before any data, and what would mend it. */
export class Analysis {
  private last: { asked: Analysed; found: Finding[] } | null = null

  /** @returns null where the gate cannot decide */
  findings(asked: Analysed): ToldFindings | null {
    const ready = gatesAsked(asked)
    if ('problems' in ready) return null
    const { lowered } = ready.gates.at(-1)!
    const { findings, more } = findingsOf(lowered, parseDate(asked.asOf)!)
    this.last = { asked, found: findings }
    return { told: told(findings, asked.gate, lowered), more: Object.values(more).reduce((sum, one) => sum + one, 0) }
  }

  /** By input, a record that a rule takes, in canonical text; null where none was found. */
  recordFor(asked: Analysed, rule: number): Record<string, string> | null {
    const ready = gatesAsked(asked)
    const found = 'gates' in ready ? recordTakenBy(ready.gates.at(-1)!.lowered, rule, parseDate(asked.asOf)!) : null
    return found && Object.fromEntries(Object.entries(found).map(([name, value]) => [name, Array.isArray(value) ? value.map(textOfValue).join(';') : textOfValue(value)]))
  }

  /** @param at place among the findings told last. @returns null where no single step is known to do */
  fix(at: number): ToldFix | null {
    const finding = this.last?.found[at]
    if (!finding) return null
    const { gate, feeding, asOf } = this.last!.asked
    const fix = fixFor(gate, finding, parseDate(asOf)!, { conditions: [], gates: feeding.map((one) => one.gate) })
    return fix && { words: fixWords(gate, fix), gate: applyFix(gate, fix) }
  }
}
