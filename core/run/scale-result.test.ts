import { placesOf } from '../table/bitmap'
import { numberColumn } from '../table/number-column'
import { givenNumber, plainScale } from '../gate/scale-gate'
import { reasonOf } from './reason'
import { scaleCounts, scaleDecider, trayRecords } from './scale-result'

const band = (label: string) => ({ label, colour: '#7fa99a', mark: 'disc' as const })
const gate = {
  ...plainScale('Decay band', givenNumber('Decay', '%'), [{ at: '12', owner: 'above' }, { at: '25', owner: 'below' }], [band('Sound'), band('Watch'), band('Failing')]),
  ceiling: { at: '100', included: true },
}
const column = numberColumn(['3', '12', '12.0', '25', '25.1', null, { unreadable: 'n/a' }, '140', '100'])
const result = scaleDecider(column)(gate)

test('counts add up, and values on a cut are counted in their band and apart', () => {
  expect(scaleCounts(column, result)).toEqual({ records: 9, bands: [1, 3, 2], held: 2, unplaced: 1, onCut: [2, 1], blank: 1, unreadable: 1 })
})

test.each([
  [{ kind: 'band', band: 1 }, [1, 2, 3]],
  [{ kind: 'cut', cut: 0 }, [1, 2]],
  [{ kind: 'on-a-cut' }, [1, 2, 3]],
  [{ kind: 'held' }, [5, 6]],
  [{ kind: 'unreadable' }, [6]],
  [{ kind: 'unplaced' }, [7]],
  [{ kind: 'exceptions' }, [1, 2, 3, 5, 6, 7]],
  [{ kind: 'all' }, [0, 1, 2, 3, 4, 5, 6, 7, 8]],
] as const)('the tray %j holds its records', (tray, places) => {
  expect([...placesOf(trayRecords(tray, column, result))]).toEqual(places)
})

test('every exception has its reason, and nothing else has one', () => {
  const reason = (value: string | null, unreadable: string | null = null) => reasonOf(gate, { value, unreadable })
  expect(reason(null)).toEqual({ kind: 'blank' })
  expect(reason(null, 'n/a')).toEqual({ kind: 'unreadable', text: 'n/a' })
  expect(reason('140')).toEqual({ kind: 'off-the-scale', end: 'ceiling', at: '100' })
  expect(reason('25.00')).toEqual({ kind: 'on-a-cut', at: '25', owner: 'Watch' })
  expect(reason('12')).toEqual({ kind: 'on-a-cut', at: '12', owner: 'Watch' })
  expect(reason('24.999999999999999999999')).toBeNull()
})
