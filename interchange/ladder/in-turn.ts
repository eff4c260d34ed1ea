/** First: the first true rule, unless an open one before it could change what comes of it. */
import type { Decision } from '@dime-gate/core/decide/decide-record'
import { differ, type Ladder, type LadderRule, type Telling } from './ladder'
import { isSame, type Language, type Piece, type When } from './language'

export function inTurn<P extends Piece>(language: Language<P>, ladder: Ladder<P>, telling: Telling<P>): P {
  const { rules, onlyBlank } = ladder
  if (onlyBlank || !rules.some(({ canBeOpen }) => canBeOpen)) {
    const atBlank = onlyBlank ? [{ when: onlyBlank.isBlank, then: told(ladder, onlyBlank.decision, telling) }] : []
    const plain = rules.map((rule): When<P> => ({ when: rule.certain, then: settled(language, rule, telling) }))
    return language.cases([...atBlank, ...plain], rest(language, ladder, telling))
  }
  // The first rule that is possible says what the record may get; its chain tells whether anything else may come of it.
  const starts = rules.filter((rule, at) => rule.same === null || rules.findIndex(({ same }) => same === rule.same) === at)
  const choiceOf = rules.map((rule) => starts.findIndex((start) => start === rule || (rule.same !== null && start.same === rule.same)) + 1)
  const selector = language.cases(merged(language, rules.map((rule, at) => ({ when: rule.possible, then: language.number(choiceOf[at]!) }))), language.number(0))
  return language.numbered(selector, starts.map((start) => chain(language, ladder, rules.indexOf(start), telling)), rest(language, ladder, telling))
}

/** What a rule gives where it is the one that decides, unless that is open itself. */
function settled<P extends Piece>(language: Language<P>, rule: LadderRule<P>, telling: Telling<P>): P {
  return isSame(rule.open, language.no) ? telling.rule(rule) : language.cases([{ when: rule.open, then: telling.none('held') }], telling.rule(rule))
}

function rest<P extends Piece>(language: Language<P>, { otherwise }: Ladder<P>, telling: Telling<P>): P {
  return !otherwise || isSame(otherwise.open, language.no) ? telling.rest() : language.cases([{ when: otherwise.open, then: telling.none('held') }], telling.rest())
}

function told<P extends Piece>({ rules }: Ladder<P>, { status, rule }: Decision, telling: Telling<P>): P {
  return status === 'held' ? telling.none('held') : status === 'labelled' ? telling.rule(rules.find(({ place }) => place === rule)!) : telling.rest()
}

/** What becomes of a record for which the rule at `start` is the first that is possible. */
function chain<P extends Piece>(language: Language<P>, ladder: Ladder<P>, start: number, telling: Telling<P>): P {
  const { rules, otherwise } = ladder
  const candidate = rules[start]!
  const held = telling.none('held')
  const whens = rules.slice(start).flatMap((rule): When<P>[] => {
    const settles: When<P> = { when: rule.certain, then: settled(language, rule, telling) }
    const differs = differ(language, rule, candidate)
    if (rule === candidate || isSame(differs, language.no)) return [settles]
    const turns: When<P> = { when: language.all([rule.possible, differs]), then: held }
    return isSame(differs, language.yes) ? [turns] : [turns, settles]
  })
  return language.cases(merged(language, whens), language.cases([{ when: differ(language, candidate, otherwise), then: held }], rest(language, ladder, telling)))
}

/** Neighbours that give the same, as one. */
export function merged<P extends Piece>(language: Language<P>, whens: readonly When<P>[]): When<P>[] {
  const result: When<P>[] = []
  for (const one of whens) {
    const last = result.at(-1)
    if (last && isSame(last.then, one.then)) last.when = language.any([last.when, one.when])
    else result.push({ ...one })
  }
  return result
}
