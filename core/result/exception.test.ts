import { reasonKeys, EXCEPTION_KINDS, exceptionKind, inputsOf, mainKind } from './exception'
import type { Reason } from './reason'

const HELD: Reason = { kind: 'held', inputs: ['Lean', 'Decay'] }
const UNREADABLE: Reason = { kind: 'unreadable', input: 'Decay', text: 'n/a' }
const ON: Reason = { kind: 'edge', of: 'Decay', at: '25', side: 'on' }
const CHANGED: Reason = { kind: 'changed', from: 'Weak' }

test('what weighs most says of which kind it is; without a reason it is one that was overridden', () => {
  expect([mainKind([ON, HELD, UNREADABLE]), mainKind([CHANGED, ON]), mainKind([])]).toEqual(['unreadable', 'on an edge', 'overridden'])
  expect(exceptionKind({ kind: 'off the scale', input: 'Decay', end: 'floor', at: '0' })).toBe('unplaced')
  expect(exceptionKind({ ...ON, side: 'past' })).toBe('near an edge')
  for (const kind of [HELD, UNREADABLE, ON, CHANGED].map(exceptionKind)) expect(EXCEPTION_KINDS).toContain(kind)
})

test('alike are those with the same reasons, whatever was written; another cut, another side or another input is not alike', () => {
  expect(reasonKeys([UNREADABLE])).toEqual(reasonKeys([{ ...UNREADABLE, text: '35 cm' }]))
  for (const other of [{ ...ON, at: '40' }, { ...ON, side: 'past' }, { ...ON, of: 'Lean' }] as Reason[]) expect(reasonKeys([other])).not.toEqual(reasonKeys([ON]))
  expect(reasonKeys([CHANGED])).not.toEqual(reasonKeys([{ kind: 'changed', from: 'Sound' }]))
})

test('a settlement stands on the values that its reasons name, in the order of the gate; on all where they name none', () => {
  const all = ['Decay', 'Lean', 'Ward']
  expect(inputsOf([HELD], all)).toEqual(['Decay', 'Lean'])
  expect(inputsOf([ON], all)).toEqual(['Decay'])
  expect(inputsOf([{ ...ON, of: 'Decay / Lean' }], all)).toEqual(all)
  expect(inputsOf([CHANGED], all)).toEqual(all)
})
