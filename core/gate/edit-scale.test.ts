import { intervalText } from './interval'
import { addCut, editBand, giveBand, moveCut, recolour, removeCut, setCuts, setEnd, setOwner, setOwners, setTolerance, takeChart } from './edit-scale'
import { newScale } from './new-scale'
import { numberColumn } from '../table/number-column'
import type { ScaleGate } from './document'
import { bandInterval } from './form'
import { lower } from '../rule/lower'
import { bandsOf, givenNumber, ownerOf, plainScale } from './scale-gate'

const column = numberColumn(Array.from({ length: 90 }, (_, i) => String(i)))
const gate = newScale('Decay band', givenNumber('Decay', '%'), column)
const limits = (it: ScaleGate) => bandsOf(it).map((band, i) => `${band.label} ${intervalText(bandInterval(it, i))}`)
const done = (edit: ReturnType<typeof moveCut>) => {
  if ('refused' in edit) throw new Error(edit.refused.code)
  return edit.gate
}

test('a first scale cuts the values in three', () => {
  expect(limits(gate)).toEqual(['Low < 30', 'Middle [30..59)', 'High >= 59'])
  expect('lowered' in lower(gate)).toBe(true)
})

test('a first scale on one value, or none, starts uncut', () => {
  expect(newScale('x', gate.inputs[0]!, numberColumn(['5', '5', '5'])).cuts).toEqual([])
  expect(newScale('x', gate.inputs[0]!, numberColumn([null, null])).bands).toHaveLength(1)
})

test('all cuts anew: bands keep their order, new ones come above, and cuts that stay keep whose they are', () => {
  const own = setOwner(gate, 1, 'below')
  const more = done(setCuts(own, ['12', '30', '59', '80']))
  expect(limits(more)).toEqual(['Low < 12', 'Middle [12..30)', 'High [30..59]', 'Band 4 (59..80)', 'Band 5 >= 80'])
  expect(limits(done(setCuts(more, ['30'])))).toEqual(['Low < 30', 'Middle >= 30'])
  expect(setCuts(gate, ['30', '30'])).toMatchObject({ refused: { code: 'out-of-order' } })
  expect(limits(setOwners(gate, 'below'))).toEqual(['Low <= 30', 'Middle (30..59]', 'High > 59'])
  expect(giveBand({ ...gate, bands: gate.bands.map(({ entries }) => ({ entries: [...entries, null] })) }, 1, 1, { is: '3' }).bands[1]!.entries[1]).toEqual({ is: '3' })
})

test('a chart says all bands anew; labels that were there keep their look and what they give', () => {
  const chart = plainScale('Chart', givenNumber('Decay', '%'), [{ at: '20', owner: 'above' }, { at: '50', owner: 'above' }], ['Low', 'New', 'High'].map((label) => ({ label, colour: '#000000', mark: 'disc' as const })))
  const own = editBand({ ...gate, outcomes: [...gate.outcomes, { name: 'Points', type: 'number', labels: [] }], bands: gate.bands.map(({ entries }, at) => ({ entries: [...entries, { is: String(at) }] })) }, 2, { mark: 'star' })
  const taken = takeChart(own, { ...chart, floor: { at: '0', included: true } })
  expect(limits(taken)).toEqual(['Low [0..20)', 'New [20..50)', 'High >= 50'])
  expect(taken.bands.map(({ entries }) => entries[1])).toEqual([{ is: '0' }, null, { is: '2' }])
  expect(bandsOf(taken)[2]!.mark).toBe('star')
  expect(new Set(bandsOf(taken).map(({ mark }) => mark)).size).toBe(3)
  expect(taken.inputs).toEqual(own.inputs)
  const same = takeChart(own, plainScale('Chart', givenNumber('Decay', '%'), [{ at: '10', owner: 'above' }], [bandsOf(own)[0]!, bandsOf(own)[2]!]))
  expect(bandsOf(same)).toEqual([bandsOf(own)[0], bandsOf(own)[2]])
})

test('a cut splits its band and the upper part is new', () => {
  const split = done(addCut(gate, '40'))
  expect(limits(split)).toEqual(['Low < 30', 'Middle [30..40)', 'Band 4 [40..59)', 'High >= 59'])
  expect(new Set(bandsOf(split).map((band) => band.mark)).size).toBe(4)
})

test('a cut on, or moved past, its neighbour is refused and says between what it must lie', () => {
  expect(addCut(gate, '30')).toMatchObject({ refused: { code: 'out-of-order' } })
  expect(moveCut(gate, 0, '59')).toMatchObject({ refused: { code: 'out-of-order', low: null, high: { at: '59' } } })
  expect(limits(done(moveCut(gate, 0, '58.9')))[0]).toBe('Low < 58.9')
})

test('the owner of a cut takes its value', () => {
  const changed = setOwner(gate, 0, 'below')
  expect(limits(changed).slice(0, 2)).toEqual(['Low <= 30', 'Middle (30..59)'])
  expect([ownerOf(gate, 0), ownerOf(changed, 0)]).toEqual([1, 0])
})

test('removing a cut joins its bands under the label that is kept', () => {
  expect(limits(removeCut(gate, 0, 'below'))).toEqual(['Low < 59', 'High >= 59'])
  expect(limits(removeCut(gate, 0, 'above'))).toEqual(['Middle < 59', 'High >= 59'])
})

test('a floor and a ceiling end the scale, beyond the cuts only', () => {
  const ended = done(setEnd(done(setEnd(gate, 'floor', { at: '0', included: true })), 'ceiling', { at: '100', included: true }))
  expect(limits(ended)).toEqual(['Low [0..30)', 'Middle [30..59)', 'High [59..100]'])
  expect(setEnd(gate, 'floor', { at: '30', included: true })).toEqual({ refused: { code: 'beyond-cuts', end: 'floor', cut: '30' } })
  expect('gate' in setEnd(gate, 'ceiling', { at: '59', included: true })).toBe(true)
  expect('refused' in setEnd(gate, 'ceiling', { at: '59', included: false })).toBe(true)
  expect(addCut(ended, '100')).toMatchObject({ refused: { high: { at: '100' } } })
})

test('bands that wear a palette go on wearing it; colours chosen by hand stay', () => {
  const worn = recolour(gate, 'good to bad')
  expect(bandsOf(done(addCut(worn, '10'))).map((band) => band.colour)).toEqual(['#7fa99a', '#d3c48a', '#d08a45', '#8e3424'])
  const chosen = editBand(worn, 0, { colour: '#112233' })
  expect(bandsOf(done(addCut(chosen, '10'))).map((band) => band.colour)).toEqual(['#112233', '#112233', ...bandsOf(worn).slice(1).map((band) => band.colour)])
})

test('a stored scale that cannot decide is told by place', () => {
  const problems = (it: ScaleGate) => {
    const lowering = lower(it)
    return 'problems' in lowering && lowering.problems.map(({ code, path }) => ({ code, path }))
  }
  expect(problems({ ...gate, bands: gate.bands.slice(1) })).toEqual([{ code: 'band-count', path: 'bands' }])
  expect(problems({ ...gate, cuts: gate.cuts.toReversed() })).toEqual([{ code: 'cut-order', path: 'cuts.1' }])
  expect(problems({ ...gate, ceiling: { at: '59', included: false } })).toEqual([{ code: 'empty-band', path: 'bands.2' }])
})

test('a tolerance belongs to what the cuts are on, and to nothing else', () => {
  const figure = { ...gate, inputs: [...gate.inputs, givenNumber('Trunk', 'cm')] }
  expect(setTolerance(figure, '0.5').inputs.map(({ tolerance }) => tolerance)).toEqual(['0.5', null])
  expect(setTolerance(setTolerance(figure, '0.5'), null)).toEqual(figure)
})
