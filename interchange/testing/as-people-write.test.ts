import { decideRecord } from '@dime-gate/core/decide/decide-record'
import { lowered } from '@dime-gate/core/rule/lower'
import { givenBy, TODAY } from '@dime-gate/core/testing/a-gate'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { readChart } from '../chart/read-chart'
import { readConditional } from '../conditional/gate-from-conditional'
import { CHARTS, CONDITIONALS } from './as-people-write'

test.each(CONDITIONALS)('$language: $text', ({ language, text, known }) => {
  const read = readConditional(text, language, 'Read', TODAY)
  if ('problem' in read) throw new Error(read.problem.message)
  expect(known.map(([values]) => textOfValue(decideRecord(lowered(read.gate), givenBy(read.gate.inputs, values), TODAY).outcomes[0] ?? null))).toEqual(known.map(([, label]) => label))
})

test.each(CHARTS)('$text', ({ text, known }) => {
  const { scale, remarks } = readChart(text, { name: 'Read' })
  if (!scale) throw new Error(remarks.map(({ message }) => message).join(' '))
  expect(known.map(([value]) => textOfValue(decideRecord(lowered(scale), givenBy(scale.inputs, { [scale.on]: value }), TODAY).outcomes[0] ?? null))).toEqual(known.map(([, label]) => label))
})
