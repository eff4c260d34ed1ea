/** First: the first true rule, unless an open one before it could change what comes of it. */
import { atSoleBlank, differ, type Ladder, type Telling } from './ladder'
import { isSame, type Language, type Piece, type When } from './language'

export function inTurn<P extends Piece>(language: Language<P>, ladder: Ladder<P>, telling: Telling<P>): P {
  const { rules, onlyBlank } = ladder
  const plain = rules.map((rule): When<P> => ({ when: rule.certain, then: telling.rule(rule) }))
  const atBlank = onlyBlank && atSoleBlank(language, ladder)
  if (!rules.some(({ canBeOpen }) => canBeOpen) || atBlank === 'same') return language.cases(plain, telling.rest())
  if (atBlank === 'held') return language.cases([{ when: onlyBlank!, then: telling.none('held') }, ...plain], telling.rest())
  // The first rule that is possible says what the record may get; its chain tells whether anything else may come of it.
  const starts = rules.filter((rule, at) => rule.same === null || rules.findIndex(({ same }) => same === rule.same) === at)
  const choiceOf = rules.map((rule) => starts.findIndex((start) => start === rule || (rule.same !== null && start.same === rule.same)) + 1)
  const selector = language.cases(merged(language, rules.map((rule, at) => ({ when: rule.possible, then: language.number(choiceOf[at]!) }))), language.number(0))
  return language.numbered(selector, starts.map((start) => chain(language, ladder, rules.indexOf(start), telling)), telling.rest())
}

/** What becomes of a record for which the rule at `start` is the first that is possible. */
function chain<P extends Piece>(language: Language<P>, { rules, otherwise }: Ladder<P>, start: number, telling: Telling<P>): P {
  const candidate = rules[start]!
  const held = telling.none('held')
  const whens = rules.slice(start).flatMap((rule): When<P>[] => {
    const settles: When<P> = { when: rule.certain, then: telling.rule(rule) }
    const differs = differ(language, rule, candidate)
    if (rule === candidate || isSame(differs, language.no)) return [settles]
    const turns: When<P> = { when: language.all([rule.possible, differs]), then: held }
    return isSame(differs, language.yes) ? [turns] : [turns, settles]
  })
  return language.cases(merged(language, whens), language.cases([{ when: differ(language, candidate, otherwise), then: held }], telling.rest()))
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
