import { decideRecord } from '../decide/decide-record'
import { findingsOf } from '../finding/findings'
import { lower, lowered } from '../rule/lower'
import { anInput, TODAY } from '../testing/a-gate'
import type { MatchGate } from './document'
import { labelsOf } from './edit-labels'
import { addTray, joinedByFolding, moveTray, newMatch, removeTray, setFolds, sortAsListed, sortInto } from './edit-match'
import { withoutIdleRules } from './form'
import { paletteColours } from './palette'

const EMPTY = newMatch('Leaf group', anInput('Species', 'text'))
const LISTED = sortAsListed(EMPTY, [['Rowan', 'Pinnate'], ['Sycamore', 'Palmate'], ['Walnut', 'Pinnate']])
const inTrays = ({ lines }: MatchGate) => lines.map(({ values }) => values.join(' '))
const labelOf = (gate: MatchGate, species: string) => {
  const { outcomes } = decideRecord(lowered(gate), () => species, TODAY)
  return outcomes[0] ?? null
}

test('values are sorted into trays, each into one, and taken out again', () => {
  expect(inTrays(LISTED)).toEqual(['Rowan Walnut', 'Sycamore'])
  const moved = sortInto(LISTED, ['Walnut', 'Hazel'], 1)
  expect(inTrays(moved)).toEqual(['Rowan', 'Sycamore Walnut Hazel'])
  expect([labelOf(moved, 'Walnut'), labelOf(moved, 'Hazel'), labelOf(moved, 'Oak')]).toEqual(['Palmate', 'Palmate', null])
  expect(inTrays(sortInto(moved, ['Walnut'], null))).toEqual(['Rowan', 'Sycamore Hazel'])
})

test('a tray gives its label; the label comes and goes with it, in colours that say no order', () => {
  expect(labelsOf(LISTED).map(({ value, colour }) => [value, colour])).toEqual([['Pinnate', paletteColours('unordered', 2)[0]], ['Palmate', paletteColours('unordered', 2)[1]]])
  expect(addTray(LISTED, 'Palmate')).toEqual({ gate: LISTED, tray: 1 })
  const needle = addTray(LISTED, 'Needle')
  expect([needle.tray, labelsOf(needle.gate).at(-1)!.value]).toEqual([2, 'Needle'])
  expect(labelsOf(removeTray(needle.gate, 2))).toEqual(labelsOf(LISTED))
  expect(labelOf(removeTray(LISTED, 0), 'Rowan')).toBeNull()
  expect(inTrays(moveTray(LISTED, 1, 0))).toEqual(['Sycamore', 'Rowan Walnut'])
})

test('a tray without a value takes nothing, and nobody is told of it', () => {
  const { gate } = addTray(LISTED, 'Needle')
  expect(findingsOf(lowered(gate), TODAY).findings.filter(({ rules }) => rules.includes(2))).toEqual([])
  expect(withoutIdleRules(gate)).toMatchObject({ lines: LISTED.lines })
})

test('folding says what it joins; the first of several trays keeps a value, and the gate can still decide', () => {
  const spelt = sortInto(sortInto(LISTED, ['rowan '], 1), ['Elm'], 0)
  expect(joinedByFolding(spelt, ['Rowan', 'rowan ', 'ELM', 'Oak'])).toEqual([
    { values: ['Rowan', 'rowan '], trays: [0, 1] },
    { values: ['ELM', 'Elm'], trays: [null, 0] },
  ])
  const folds = setFolds(spelt, true)
  expect(inTrays(folds)).toEqual(['Rowan Walnut Elm', 'Sycamore'])
  expect('lowered' in lower(folds)).toBe(true)
  expect([labelOf(folds, ' ROWAN'), labelOf(folds, 'elm')]).toEqual(['Pinnate', 'Pinnate'])
  expect(inTrays(sortInto(folds, ['ROWAN'], 1))).toEqual(['Walnut Elm', 'Sycamore ROWAN'])
})

test('a list may say a value twice: what it says last holds', () => {
  expect(inTrays(sortAsListed(LISTED, [['Rowan', 'Needle'], ['Rowan', 'Palmate']]))).toEqual(['Walnut', 'Sycamore Rowan'])
})
