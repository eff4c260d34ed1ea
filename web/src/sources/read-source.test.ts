import { decideRecord } from '@dime-gate/core/decide/decide-record'
import type { Gate } from '@dime-gate/core/gate/document'
import { lowered } from '@dime-gate/core/rule/lower'
import { anInput, rulesGate, TODAY } from '@dime-gate/core/testing/a-gate'
import { Decimal } from '@dime-gate/core/value/number'
import { writeDmn } from '@dime-gate/interchange/dmn/dmn'
import { freeName } from '../shared/free-name'
import { readSource, sourceOf, type Source, underFreeNames, wantedOf } from './read-source'

const HOW = { name: 'Brought', asOf: '2026-03-02' }
const labelOf = (gate: Gate, value: string) => decideRecord(lowered(gate), () => new Decimal(value), TODAY).outcomes[0] ?? null

// What stands in each, with the labels for 95, 70 and 10 worked out by hand.
test.each<[Source, string, (string | null)[]]>([
  ['chart', 'Points\tBand\n90–100\tcrown\n60 to 90\tclimb\n< 60\tground', ['crown', 'climb', 'ground']],
  ['chart', '0 ground\n60 climb\n90 crown', ['crown', 'climb', 'ground']],
  ['chart', '< 60\tground\n>= 60 and < 90\tclimb\n>= 90\tcrown', ['crown', 'climb', 'ground']],
  ['chart', 'crown (90–100)\nclimb (60–90)\nground (0–59)', ['crown', 'climb', 'ground']],
  ['openformula', '=IF([.A1]>=90;"crown";IF([.A1]>=60;"climb";"ground"))', ['crown', 'climb', 'ground']],
  ['openformula', 'IF(Points>=90;"crown";IF(Points>=60;"climb";"ground"))', ['crown', 'climb', 'ground']],
  ['sql', "SELECT CASE WHEN points >= 90 THEN 'crown' WHEN points >= 60 THEN 'climb' ELSE 'ground' END", ['crown', 'climb', 'ground']],
  ['sql', "case when points < 60 then 'ground' when points < 90 then 'climb' end", [null, 'climb', 'ground']],
  ['feel', 'if Points >= 90 then "crown" else if Points >= 60 then "climb" else "ground"', ['crown', 'climb', 'ground']],
])('%s is told from its beginning, and read: %s', (source, text, expected) => {
  expect(sourceOf(text)).toBe(source)
  const { gates, notes } = readSource(text, source, HOW)
  expect(notes.filter(({ severity }) => severity === 'error')).toEqual([])
  expect(['95', '70', '10'].map((value) => labelOf(gates[0]!, value))).toEqual(expected)
})

test('what is not understood is marked where it stands', () => {
  const text = 'if Points >= 90 then "crown" else what(Points)'
  const { gates, notes: [note] } = readSource(text, 'feel', HOW)
  expect(gates).toEqual([])
  expect(note!.severity).toBe('error')
  expect(text.slice(note!.from!, note!.to!)).toContain('what')
  const chart = 'Points\tBand\n90\tcrown\nlots\tclimb\n10\tground\n0\tnone'
  const lines = readSource(chart, 'chart', HOW).notes.filter(({ severity }) => severity === 'error')
  expect(chart.slice(lines[0]!.from!, lines[0]!.to!)).toBe('lots\tclimb')
  expect(readSource('{"form":', 'document', HOW).notes[0]!.words).toMatch(/no JSON/)
  expect(readSource('<definitions', 'dmn', HOW).notes[0]!.severity).toBe('error')
})

test('a DMN file of gates that feed each other comes back as those gates, under names that are free', () => {
  const band = rulesGate([anInput('Decay', 'number')], [['Decay >= 40', 'Failing'], ['Decay < 40', 'Sound']], { name: 'Band' })
  const felling = rulesGate([anInput('Band', 'text', { source: { kind: 'gate', gate: 'Band', outcome: null } })], [['Band = "Failing"', 'fell']], { name: 'Felling' })
  const text = writeDmn({ conditions: [], gates: [band, felling] })
  expect(sourceOf(text)).toBe('dmn')
  const { gates } = readSource(text, 'dmn', HOW)
  expect(gates).toEqual([band, felling])
  const renamed = underFreeNames(gates, freeName, ['band'])
  expect(renamed.map(({ name }) => name)).toEqual(['Band 2', 'Felling'])
  expect(renamed[1]!.inputs[0]!.source).toEqual({ kind: 'gate', gate: 'Band 2', outcome: null })
})

test('of several decisions those that are wanted come, with what feeds them', () => {
  const fed = (name: string, by: string) => rulesGate([anInput('In', 'text', { source: { kind: 'gate', gate: by, outcome: null } })], [['In = "x"', 'y']], { name })
  const gates = [rulesGate([anInput('Decay', 'number')], [['Decay > 1', 'x']], { name: 'Band' }), fed('Felling', 'Band'), fed('Climb', 'Band'), rulesGate([anInput('Lean', 'number')], [['Lean > 1', 'x']], { name: 'Alone' })]
  const names = (...unwanted: string[]) => wantedOf(gates, new Set(unwanted)).map(({ name }) => name)
  expect([names(), names('Alone'), names('Band'), names('Felling', 'Climb', 'Band'), names('Felling', 'Band')]).toEqual([
    ['Band', 'Felling', 'Climb', 'Alone'], ['Band', 'Felling', 'Climb'], ['Band', 'Felling', 'Climb', 'Alone'], ['Alone'], ['Band', 'Climb', 'Alone'],
  ])
})

test('a gate’s own document comes back as it is; named conditions of a library are carried by the gates that use them', () => {
  const gate = rulesGate([anInput('Decay', 'number')], [['Rotten', 'fell']], { name: 'Felling' })
  const library = { conditions: [{ name: 'Rotten', feel: 'Decay >= 40' }, { name: 'Unused', feel: 'Decay > 1' }], gates: [gate] }
  const { gates: [read] } = readSource(JSON.stringify(library), 'document', HOW)
  expect(read).toMatchObject({ rules: gate.rules, conditions: [{ name: 'Rotten', feel: 'Decay >= 40' }] })
  const whole = rulesGate([anInput('Decay', 'number')], [['Decay > 3', 'x']])
  expect(readSource(JSON.stringify(whole), 'document', HOW).gates).toEqual([whole])
})
