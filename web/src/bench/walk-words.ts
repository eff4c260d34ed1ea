/** The why of one record in words: the rules that were walked, each test with what it came to. */
import type { Why } from '@dime-gate/core/decide/why'
import { FALSE, TRUE, type Verdict } from '@dime-gate/core/decide/verdict'
import { negated } from '@dime-gate/core/expression/truth'
import type { RulesGate } from '@dime-gate/core/gate/document'
import type { Condition } from '@dime-gate/core/rule/condition'
import { inputTypes, kindOfSubject, readCondition } from '@dime-gate/core/rule/read-condition'
import { sentenceOf } from '@dime-gate/core/rule/sentence'
import { plain } from '@dime-gate/core/value/number'
import { isNumber, type Value } from '@dime-gate/core/value/value'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { conditionWordsOf } from '../rules/sentence-words'
import { number } from '../shared/format'
import { valueWords } from '../shared/words'

export type VerdictWord = 'true' | 'false' | 'unknown'

export interface WalkStep {
  rule: number
  verdict: VerdictWord
  /** @property remark what the test saw, and how far that lies from where it would turn; empty where nothing can be said */
  tests: { words: string; verdict: VerdictWord; remark: string }[]
}

/** Rules that take nothing by intent are left out. */
export function walkWords(why: Why, gate: RulesGate): WalkStep[] {
  const words = conditionWordsOf(gate.inputs)
  const types = inputTypes(gate.inputs)
  return why.rules
    .filter(({ tests }) => tests.length > 0)
    .map(({ rule, verdict, tests }) => {
      const read = readCondition(gate.rules[rule]!.condition, types)
      const turned = 'condition' in read ? turnedAbout(read.condition, kindOfSubject(types)) : []
      return {
        rule,
        verdict: verdictWord(verdict),
        tests: tests.map((test, at) => ({
          words: words(turned[at] ? `not(${test.text})` : test.text),
          verdict: verdictWord(turned[at] ? negated(test.verdict) : test.verdict),
          remark: remarkOf(test.saw, test.nearest),
        })),
      }
    })
}

/** By test, in the order of the text, whether it is told together with the `not` around it. */
function turnedAbout(condition: Condition, kindOf: Parameters<typeof sentenceOf>[1]): boolean[] {
  if (condition.kind === 'test') return [false]
  if (condition.kind !== 'not') return condition.of.flatMap((part) => turnedAbout(part, kindOf))
  return condition.of.kind === 'test' && sentenceOf(condition, kindOf) ? [true] : turnedAbout(condition.of, kindOf)
}

function verdictWord(verdict: Verdict): VerdictWord {
  return verdict === TRUE ? 'true' : verdict === FALSE ? 'false' : 'unknown'
}

function remarkOf(saw: Value, nearest: Why['rules'][number]['tests'][number]['nearest']): string {
  if (saw === null) return 'blank'
  const value = valueWords(textOfValue(saw))
  if (!nearest || !isNumber(nearest.distance)) return value
  if (nearest.distance.isZero()) return `${value}, exactly on it`
  return `${value}, ${number(plain(nearest.distance.abs()))} ${nearest.distance.isNegative() ? 'short' : 'past'}`
}
