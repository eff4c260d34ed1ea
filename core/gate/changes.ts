/** What differs between two states of a gate, as data; words are put to it where it is shown. */
import type { Entry, Gate, Input, Rule, RulesGate, SharedCondition } from './document'
import { isSame } from './is-same'

export type Change =
  /** @property at the rule's place in the later state */
  | { kind: 'rule added'; at: number; condition: string }
  /** @property at the rule's place in the earlier state */
  | { kind: 'rule removed'; at: number; condition: string }
  | { kind: 'rule moved'; from: number; to: number }
  | { kind: 'condition'; at: number; from: string; to: string }
  | { kind: 'gives'; at: number; outcome: string; from: Entry; to: Entry }
  | { kind: 'switched off' | 'switched on' | 'note'; at: number }
  | { kind: 'otherwise'; from: Entry[] | null; to: Entry[] | null }
  | { kind: 'label added' | 'label removed' | 'label looks otherwise'; label: string }
  | { kind: 'labels in another order' }
  | { kind: 'outcome added' | 'outcome removed'; outcome: string }
  | { kind: 'input added' | 'input removed' | 'input read otherwise'; input: string }
  | { kind: 'named condition added' | 'named condition removed'; name: string }
  | { kind: 'named condition'; name: string; from: string; to: string }
  | { kind: 'named condition called'; from: string; to: string }
  | { kind: 'name'; from: string; to: string }
  | { kind: 'hit policy'; from: string; to: string }
  | { kind: 'cuts'; from: string[]; to: string[] }
  | { kind: 'form'; from: Gate['form']; to: Gate['form'] }
  /** Something else of the form's own. */
  | { kind: 'parts' }

export function changesBetween(before: Gate, after: Gate): Change[] {
  const changes: Change[] = []
  if (before.name !== after.name) changes.push({ kind: 'name', from: before.name, to: after.name })
  changes.push(...inputChanges(before.inputs, after.inputs), ...conditionChanges(before.conditions ?? [], after.conditions ?? []))
  if (before.form !== after.form) changes.push({ kind: 'form', from: before.form, to: after.form })
  else if (before.form === 'rules' && after.form === 'rules') changes.push(...ruleChanges(before, after))
  else if (before.form === 'scale' && after.form === 'scale' && !isSame(before.cuts, after.cuts)) {
    changes.push({ kind: 'cuts', from: before.cuts.map(({ at }) => at), to: after.cuts.map(({ at }) => at) })
  }
  const ownParts = ({ name: _, inputs: _i, outcomes: _o, otherwise: _r, examples: _e, meant: _m, conditions: _c, ...own }: Gate) =>
    'rules' in own ? null : 'cuts' in own ? { ...own, cuts: null } : own
  if (before.form === after.form && !isSame(ownParts(before), ownParts(after))) changes.push({ kind: 'parts' })
  if (!isSame(given(before.otherwise), given(after.otherwise)))
    changes.push({ kind: 'otherwise', from: before.otherwise, to: after.otherwise })
  return [...changes, ...outcomeChanges(before, after)]
}

function inputChanges(before: readonly Input[], after: readonly Input[]): Change[] {
  const added = after
    .filter(({ name }) => !before.some((one) => one.name === name))
    .map(({ name }): Change => ({ kind: 'input added', input: name }))
  const removed = before
    .filter(({ name }) => !after.some((one) => one.name === name))
    .map(({ name }): Change => ({ kind: 'input removed', input: name }))
  const changed = after
    .filter((input) => before.some((one) => one.name === input.name && !isSame(one, input)))
    .map(({ name }): Change => ({ kind: 'input read otherwise', input: name }))
  return [...added, ...removed, ...changed]
}

function conditionChanges(before: readonly SharedCondition[], after: readonly SharedCondition[]): Change[] {
  const gone = before.filter(({ id }) => !after.some((one) => one.id === id))
  return [
    ...after.flatMap(({ id, name, feel }): Change[] => {
      const was = before.find((one) => one.id === id)
      if (!was) return [{ kind: 'named condition added', name }]
      return [
        ...(was.name === name ? [] : [{ kind: 'named condition called', from: was.name, to: name } as const]),
        ...(was.feel === feel ? [] : [{ kind: 'named condition', name, from: was.feel, to: feel } as const]),
      ]
    }),
    ...gone.map(({ name }): Change => ({ kind: 'named condition removed', name })),
  ]
}

function outcomeChanges(before: Gate, after: Gate): Change[] {
  const labels = (gate: Gate) => gate.outcomes[0]?.labels ?? []
  const [had, has] = [labels(before), labels(after)]
  const values = (all: typeof had, of: typeof had) => all.map(({ value }) => value).filter((value) => of.some((one) => one.value === value))
  const changed = has.filter((label) =>
    had.some((one) => one.value === label.value && !isSame({ ...one, rank: null }, { ...label, rank: null })),
  )
  return [
    ...has
      .filter(({ value }) => !had.some((one) => one.value === value))
      .map(({ value }): Change => ({ kind: 'label added', label: value })),
    ...had
      .filter(({ value }) => !has.some((one) => one.value === value))
      .map(({ value }): Change => ({ kind: 'label removed', label: value })),
    ...changed.map(({ value }): Change => ({ kind: 'label looks otherwise', label: value })),
    ...(isSame(values(had, has), values(has, had)) ? [] : [{ kind: 'labels in another order' } as const]),
    ...after.outcomes
      .filter(({ name }) => !before.outcomes.some((one) => one.name === name))
      .map(({ name }): Change => ({ kind: 'outcome added', outcome: name })),
    ...before.outcomes
      .filter(({ name }) => !after.outcomes.some((one) => one.name === name))
      .map(({ name }): Change => ({ kind: 'outcome removed', outcome: name })),
  ]
}

function ruleChanges(before: RulesGate, after: RulesGate): Change[] {
  const pairs = pairedRules(before.rules, after.rules)
  const changes: Change[] =
    before.hitPolicy === after.hitPolicy ? [] : [{ kind: 'hit policy', from: before.hitPolicy, to: after.hitPolicy }]
  const kept = stayed(pairs)
  after.rules.forEach((rule, at) => {
    const from = pairs.get(at)
    if (from === undefined) return void changes.push({ kind: 'rule added', at, condition: rule.condition })
    const was = before.rules[from]!
    if (!kept.has(at)) changes.push({ kind: 'rule moved', from, to: at })
    if (was.condition !== rule.condition) changes.push({ kind: 'condition', at, from: was.condition, to: rule.condition })
    rule.entries.forEach((entry, place) => {
      const name = after.outcomes[place]?.name ?? ''
      const old = before.outcomes.findIndex((one) => one.name === name)
      if (old !== -1 && !isSame(was.entries[old] ?? null, entry))
        changes.push({ kind: 'gives', at, outcome: name, from: was.entries[old] ?? null, to: entry })
    })
    if (was.isOff !== rule.isOff) changes.push({ kind: rule.isOff ? 'switched off' : 'switched on', at })
    if (was.note !== rule.note) changes.push({ kind: 'note', at })
  })
  const paired = new Set(pairs.values())
  before.rules.forEach(({ condition }, at) => !paired.has(at) && changes.push({ kind: 'rule removed', at, condition }))
  return changes
}

/** By place afterwards, where the rule was before: the same one first, then one of the same condition, then one in the same gap. */
function pairedRules(before: readonly Rule[], after: readonly Rule[]): Map<number, number> {
  const pairs = new Map<number, number>()
  const isFree = (at: number) => ![...pairs.values()].includes(at)
  const match = (isMatch: (was: Rule, rule: Rule, from: number, at: number) => boolean) =>
    after.forEach((rule, at) => {
      if (pairs.has(at)) return
      const candidates = [...before.keys()].filter((from) => isFree(from) && isMatch(before[from]!, rule, from, at))
      // Of several alike the one that stood nearest.
      const nearest = candidates.toSorted((a, b) => Math.abs(a - at) - Math.abs(b - at))[0]
      if (nearest !== undefined) pairs.set(at, nearest)
    })
  match((was, rule) => isSame(was, rule))
  match((was, rule) => was.condition === rule.condition && rule.condition.trim() !== '')
  match((was, rule, from, at) => isSame(was.entries, rule.entries) && (pairs.get(at - 1) ?? -1) === from - 1)
  return pairs
}

/** Of the rules that are there before and after, the most that are still in the same order: the others have moved. */
function stayed(pairs: ReadonlyMap<number, number>): Set<number> {
  const order = [...pairs].toSorted(([a], [b]) => a - b)
  const longest: number[][] = []
  order.forEach(([, from], index) => {
    const before = order.slice(0, index).flatMap(([, other], at) => (other < from ? [longest[at]!] : []))
    longest.push([...(before.toSorted((a, b) => b.length - a.length)[0] ?? []), index])
  })
  const best = longest.toSorted((a, b) => b.length - a.length)[0] ?? []
  return new Set(best.map((index) => order[index]![0]))
}

/** An outcome that is given nothing is as good as one that is not there. */
function given(entries: Entry[] | null): Entry[] | null {
  return entries && entries.slice(0, entries.findLastIndex((entry) => entry !== null) + 1)
}
