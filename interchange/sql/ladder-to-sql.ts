/** Rules and their hit policy as one CASE expression. */
import { GateError } from '../gate-error'
import { inTurn, merged } from '../ladder/in-turn'
import { differ, type Ladder, type LadderRule, type Telling, tellingOf, type Wanted } from '../ladder/ladder'
import type { When } from '../ladder/language'
import { caseOf, CLOSENESS, conjunction, disjunction, is, negation, NULL, type Sql, SQL, sql, within } from './sql-text'

/** @throws GateError where the policy gives what no single value can hold */
export function ladderToSql(ladder: Ladder<Sql>, wanted: Wanted): Sql {
  const telling = tellingOf(SQL, ladder, wanted)
  switch (ladder.hitPolicy) {
    case 'first': case 'priority':
      return inTurn(SQL, ladder, telling)
    case 'unique': case 'any':
      return together(ladder, telling)
    case 'collect count': case 'collect sum': case 'collect min': case 'collect max':
      return gathered(ladder, telling, wanted)
    default:
      throw new GateError(`The hit policy “${ladder.hitPolicy}” gives a list, and an SQL expression has one value.`)
  }
}

/** Unique and Any: all true rules agree, or the record is contested. */
function together(ladder: Ladder<Sql>, telling: Telling<Sql>): Sql {
  const { rules, otherwise } = ladder
  if (rules.some(({ same }) => same === null) || (otherwise && otherwise.same === null)) {
    throw new GateError(`With the hit policy “${ladder.hitPolicy}”, results that are computed cannot be written in SQL.`)
  }
  const kinds = [...new Set(rules.map(({ same }) => same))]
  const ofKind = (kind: string | null) => rules.filter(({ same }) => same === kind)
  const anyCertain = kinds.map((kind) => disjunction(ofKind(kind).map(({ certain }) => certain)))
  const count = anyCertain.map((when) => `CASE WHEN ${when.text} THEN 1 ELSE 0 END`).join(' + ')
  const contested: When<Sql>[] = kinds.length > 1 ? [{ when: sql(`${count} > 1`, CLOSENESS.comparison), then: telling.none('contested') }] : []
  const openOthers = (kind: string | null) => disjunction(rules.filter(({ same, canBeOpen }) => same !== kind && canBeOpen).map(({ possible }) => possible))
  return caseOf([
    ...contested,
    ...kinds.map((kind, at): When<Sql> => {
      const held: When<Sql> = { when: openOthers(kind), then: telling.none('held') }
      const leaves = merged(SQL, [held, ...ofKind(kind).map((rule) => ({ when: rule.certain, then: telling.rule(rule) }))])
      return { when: anyCertain[at]!, then: caseOf(leaves.slice(0, -1), leaves.at(-1)!.then) }
    }),
    { when: openOthers(otherwise ? otherwise.same : ''), then: telling.none('held') },
  ], telling.rest())
}

/** Collect with an aggregation: of all true rules. */
function gathered(ladder: Ladder<Sql>, telling: Telling<Sql>, wanted: Wanted): Sql {
  const { rules, otherwise, hitPolicy } = ladder
  if (rules.some(({ same, outcomes }) => same === null || outcomes.some(({ text }) => text === NULL.text)) || (otherwise && otherwise.same === null)) {
    throw new GateError(`With the hit policy “${hitPolicy}”, results that are computed or missing cannot be written in SQL.`)
  }
  if (rules.length === 0) return telling.rest()
  const width = rules[0]!.outcomes.length
  const each = (at: number) => rules.map(({ certain, outcomes }) => `CASE WHEN ${certain.text} THEN ${hitPolicy === 'collect count' ? '1' : outcomes[at]!.text} ${/sum|count/.test(hitPolicy) ? 'ELSE 0 ' : ''}END`)
  const total = (at: number): Sql => {
    if (hitPolicy === 'collect sum' || hitPolicy === 'collect count') return sql(each(at).join(' + '), CLOSENESS.sum)
    return sql(`${hitPolicy === 'collect min' ? 'LEAST' : 'GREATEST'}(${each(at).join(', ')})`)
  }
  const anyCertain = disjunction(rules.map(({ certain }) => certain))
  // An open rule holds the record where counting it in would change any of the totals.
  const open = rules.filter(({ canBeOpen }) => canBeOpen)
  const changes = open.map((rule) => conjunction([
    rule.possible, negation(is(rule.certain, 'TRUE')),
    disjunction(rule.outcomes.map((outcome, at): Sql => {
      if (hitPolicy === 'collect count') return sql('TRUE')
      if (hitPolicy === 'collect sum') return sql(`${outcome.text} <> 0`, CLOSENESS.comparison)
      return sql(`${outcome.text} ${hitPolicy === 'collect min' ? '<' : '>'} ${within(total(at), CLOSENESS.sum)}`, CLOSENESS.comparison)
    })),
  ]))
  const alone = (rule: LadderRule<Sql>) => ({ same: null, open: SQL.no, outcomes: hitPolicy === 'collect count' ? Array.from({ length: width }, () => sql('1')) : rule.outcomes })
  const wouldCount = open.map((rule) => conjunction([rule.possible, otherwise ? differ(SQL, alone(rule), { ...otherwise, same: null }) : sql('TRUE')]))
  // Two that give the same as otherwise, each by itself, do not together: they are counted, or added up, unless they are nothing.
  const isNothing = (rule: LadderRule<Sql>) => hitPolicy === 'collect sum' && rule.outcomes.every(({ text }) => text === '0')
  const several = /sum|count/.test(hitPolicy) ? open.filter((rule) => !isNothing(rule)).map(({ possible }) => `CASE WHEN ${possible.text} THEN 1 ELSE 0 END`) : []
  if (otherwise && several.length > 1) wouldCount.push(sql(`${several.join(' + ')} > 1`, CLOSENESS.comparison))
  const first = rules.map((rule): When<Sql> => ({ when: rule.certain, then: sql(String(rule.place + 1)) }))
  const result = wanted === 'status' ? sql("'labelled'") : wanted === 'rule' ? caseOf(first, NULL) : total(wanted.outcome)
  return caseOf([
    { when: anyCertain, then: caseOf([{ when: disjunction(changes), then: telling.none('held') }], result) },
    { when: disjunction(wouldCount), then: telling.none('held') },
  ], telling.rest())
}
