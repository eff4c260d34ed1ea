import { findingsOf } from '../finding/findings'
import { lower, lowered } from '../rule/lower'
import { anInput, givenBy, rulesGate, TODAY } from '../testing/a-gate'
import { decideRecord } from '../decide/decide-record'
import type { Label, RulesGate } from './document'
import { editLabel, labelsOf, moveLabel, paletteWorn, rankLabels, recolourLabels, renameLabel } from './edit-labels'
import { addOutcome, removeOutcome } from './edit-outcomes'
import { addRule, copyRule, dropOtherwise, editRule, giveEntry, moveRule, newRulesGate, removeRule, reorderRules, switchRule } from './edit-rules'
import { withoutIdleRules } from './form'
import { paletteColours } from './palette'

const INPUTS = [anInput('Decay', 'number')]
const shown = (gate: RulesGate) => labelsOf(gate).map(({ value }) => value)
const gives = (gate: RulesGate) =>
  gate.rules.map(({ condition, entries: [entry] }) => [condition, entry && 'is' in entry ? entry.is : null])
const give = (gate: RulesGate, at: number | null, label: string) => giveEntry(gate, at, 0, { is: label })
/** Rules are written as a person would: one after the other. */
const written = (pairs: [string, string][]) =>
  pairs.reduce((gate, [condition, label], at) => give(addRule(gate, at, condition), at, label), {
    ...newRulesGate('Felling'),
    inputs: INPUTS,
  })
const GATE = give(
  written([
    ['Decay >= 40', 'Fell'],
    ['Decay >= 25', 'Climb'],
    ['Decay >= 12', 'Climb'],
  ]),
  null,
  'Next round',
)

test('labels are listed in the order of the rules, each with a mark of its own and a colour of one palette', () => {
  expect(shown(GATE)).toEqual(['Fell', 'Climb', 'Next round'])
  expect(new Set(labelsOf(GATE).map(({ mark }) => mark)).size).toBe(3)
  expect(labelsOf(GATE).map(({ colour }) => colour)).toEqual(paletteColours('ordered', 3).toReversed())
  expect(shown(give(addRule(GATE, 1, 'Decay > 30'), 1, 'Prop'))).toEqual(['Fell', 'Prop', 'Climb', 'Next round'])
})

test('a label that one rule alone gave is renamed with it, and keeps its look; one that others give stays', () => {
  const own = editLabel(GATE, 'Fell', { colour: '#123456', mark: 'star' })
  expect(labelsOf(give(own, 0, 'Fell now'))[0]).toEqual({ value: 'Fell now', colour: '#123456', mark: 'star', rank: null })
  expect(shown(give(GATE, 1, 'Prop'))).toEqual(['Fell', 'Prop', 'Climb', 'Next round'])
  expect(shown(give(GATE, 0, 'Climb'))).toEqual(['Climb', 'Next round'])
  expect(shown(removeRule(GATE, 0))).toEqual(['Climb', 'Next round'])
  expect(shown(dropOtherwise(GATE))).toEqual(['Fell', 'Climb'])
  expect(dropOtherwise(GATE).otherwise).toBeNull()
})

test('colours that were chosen by hand are left alone', () => {
  const own = editLabel(GATE, 'Fell', { colour: '#123456' })
  expect(labelsOf(give(own, 1, 'Prop')).map(({ colour }) => colour)).toContain('#123456')
  expect(paletteWorn(labelsOf(own))).toBeNull()
})

test('rules are copied, moved, sorted and removed; each keeps what is its own', () => {
  expect(gives(copyRule(GATE, 0)).slice(0, 2)).toEqual([
    ['Decay >= 40', 'Fell'],
    ['Decay >= 40', 'Fell'],
  ])
  expect(gives(moveRule(GATE, 0, 1)).map(([condition]) => condition)).toEqual(['Decay >= 25', 'Decay >= 40', 'Decay >= 12'])
  expect(gives(moveRule(GATE, 0, 99)).at(-1)).toEqual(['Decay >= 40', 'Fell'])
  expect(gives(reorderRules(GATE, [2, 0, 1])).map(([, label]) => label)).toEqual(['Climb', 'Fell', 'Climb'])
  expect(editRule(GATE, 1, { note: 'look' }).rules.map(({ note }) => note)).toEqual(['', 'look', ''])
})

test('outcomes beside the label come and go in every rule and in otherwise', () => {
  const two = addOutcome(GATE, 'Points', 'number')
  expect([...two.rules.map(({ entries }) => entries.length), two.otherwise!.length]).toEqual([2, 2, 2, 2])
  expect(giveEntry(two, 0, 1, { is: '3' }).rules[0]!.entries).toEqual([{ is: 'Fell' }, { is: '3' }])
  expect(removeOutcome(two, 1)).toEqual(GATE)
})

test('labels are renamed wherever they are given, become one with another, move, and are ranked and coloured together', () => {
  const renamed = renameLabel(GATE, 'Climb', 'Look')
  expect([gives(renamed).map(([, label]) => label), shown(renamed)]).toEqual([
    ['Fell', 'Look', 'Look'],
    ['Fell', 'Look', 'Next round'],
  ])
  expect(shown(renameLabel(GATE, 'Next round', 'Fell'))).toEqual(['Fell', 'Climb'])
  const ranked = rankLabels(GATE, true)
  const byRank = (labels: Label[]) => labels.map(({ value, rank }) => [value, rank])
  expect(byRank(labelsOf(ranked))).toEqual([
    ['Fell', 2],
    ['Climb', 1],
    ['Next round', 0],
  ])
  const moved = moveLabel(ranked, 2, 0)
  expect(byRank(labelsOf(moved))).toEqual([
    ['Next round', 2],
    ['Fell', 1],
    ['Climb', 0],
  ])
  expect(labelsOf(moved).map(({ colour }) => colour)).toEqual(labelsOf(ranked).map(({ colour }) => colour))
  expect(byRank(labelsOf(give(ranked, 1, 'Prop')))).toEqual([
    ['Fell', 3],
    ['Prop', 2],
    ['Climb', 1],
    ['Next round', 0],
  ])
  const bad = recolourLabels(GATE, 'good to bad', true)
  expect(paletteWorn(labelsOf(bad))).toEqual({ palette: 'good to bad', isReversed: true })
})

describe('a rule that takes nothing by intent', () => {
  const off = switchRule(GATE, 0)
  const unwritten = addRule(GATE, 0, '')
  const decided = (gate: RulesGate, decay: string) => decideRecord(lowered(gate), givenBy(INPUTS, { Decay: decay }), TODAY)

  test('keeps its place and is walked past; switched on again it is as it was', () => {
    expect(decided(off, '50')).toMatchObject({ status: 'labelled', rule: 1 })
    expect(decided(unwritten, '50')).toMatchObject({ status: 'labelled', rule: 1 })
    expect(switchRule(off, 0)).toEqual(GATE)
    // What is wrong with it is nobody's trouble as long as it is off.
    expect('lowered' in lower(switchRule(rulesGate(INPUTS, [['nonsense(', 'a']]), 0))).toBe(true)
  })

  test('is no finding, and is left out for whoever reads the gate elsewhere', () => {
    for (const gate of [off, unwritten]) {
      expect(
        findingsOf(lowered(gate), TODAY).findings.filter(
          ({ kind, rules }) => (kind === 'never reached' || kind === 'no effect') && rules[0] === 0,
        ),
      ).toEqual([])
    }
    expect(gives(withoutIdleRules(unwritten) as RulesGate)).toEqual(gives(GATE))
    expect(withoutIdleRules(GATE)).toBe(GATE)
  })
})
