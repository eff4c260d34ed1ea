/** The why of one record in words: the rules that were walked, each test with what it came to. */
import type { WalkedTest, Why } from '@dime-gate/core/decide/why'
import { FALSE, TRUE, type Verdict } from '@dime-gate/core/decide/verdict'
import { negated } from '@dime-gate/core/expression/truth'
import type { RulesGate } from '@dime-gate/core/gate/document'
import { kindOfSubject, readCondition, typesIn } from '@dime-gate/core/rule/read-condition'
import { sentenceOf } from '@dime-gate/core/rule/sentence'
import { plain } from '@dime-gate/core/value/number'
import { isNumber, type Value } from '@dime-gate/core/value/value'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { conditionWordsOf } from '../conditions/sentence-words'
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
export function walkWords(why: Why, gate: Pick<RulesGate, 'inputs' | 'conditions'>): WalkStep[] {
  return walkTeller(gate)(why)
}

/** Tells of many records of one gate, each test read once. */
export function walkTeller(gate: Pick<RulesGate, 'inputs' | 'conditions'>): (why: Why) => WalkStep[] {
  const words = conditionWordsOf(gate)
  const types = typesIn(gate)
  /** A test is told together with the `not` before it where one sentence says both. */
  const isTurned = ({ isNegated, text }: WalkedTest) => {
    if (!isNegated) return false
    const read = readCondition(`not(${text})`, types)
    return 'condition' in read && sentenceOf(read.condition, kindOfSubject(types)) !== null
  }
  const known = new Map<string, { words: string; isTurned: boolean }>()
  const toldOf = (test: WalkedTest) => {
    const key = `${test.isNegated} ${test.text}`
    if (!known.has(key)) {
      const turned = isTurned(test)
      known.set(key, { words: words(turned ? `not(${test.text})` : test.text), isTurned: turned })
    }
    return known.get(key)!
  }
  return (why) => why.rules
    .filter(({ tests }) => tests.length > 0)
    .map(({ rule, verdict, tests }) => ({
      rule,
      verdict: verdictWord(verdict),
      tests: tests.map((test) => {
        const told = toldOf(test)
        return { words: told.words, verdict: verdictWord(told.isTurned ? negated(test.verdict) : test.verdict), remark: remarkOf(test.saw, test.nearest) }
      }),
    }))
}

function verdictWord(verdict: Verdict): VerdictWord {
  return verdict === TRUE ? 'true' : verdict === FALSE ? 'false' : 'unknown'
}

function remarkOf(saw: Value, nearest: Why['rules'][number]['tests'][number]['nearest']): string {
  if (saw === null) return 'blank'
  if (saw === true || saw === false) return saw ? 'yes' : 'no'
  const value = valueWords(textOfValue(saw))
  if (!nearest || !isNumber(nearest.distance)) return value
  if (nearest.distance.isZero()) return `${value}, exactly on it`
  return `${value}, ${number(plain(nearest.distance.abs()))} ${nearest.distance.isNegative() ? 'short' : 'past'}`
}
