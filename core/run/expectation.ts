/** Stated counts and shares that a run must meet. */
import { Decimal, type DecimalText, plain } from '../value/number'
import { type LabelTray, type TrayKey, trayName } from './trays'

export interface Expectation {
  of: TrayKey
  measure: 'count' | 'share'
  is: 'exactly' | 'at most' | 'at least'
  /** A count of records, or a share from 0 to 1. */
  value: DecimalText
}

export interface ExpectationResult {
  expectation: Expectation
  isMet: boolean
  /** What there is, as a count or as a share rounded to 34 digits. */
  actual: DecimalText
}

/** @param records in the table, all of them. A tray that is not there has no records. */
export function checkExpectations(expectations: readonly Expectation[], trays: readonly LabelTray[], records: number): ExpectationResult[] {
  return expectations.map((expectation) => {
    const count = new Decimal(trays.find(({ key }) => trayName(key) === trayName(expectation.of))?.records ?? 0)
    const whole = expectation.measure === 'count' || records === 0 ? new Decimal(1) : new Decimal(records)
    // Multiplied out, so that a third of three records is met exactly.
    const order = count.cmp(new Decimal(expectation.value).times(whole))
    const isMet = expectation.is === 'exactly' ? order === 0 : expectation.is === 'at most' ? order <= 0 : order >= 0
    return { expectation, isMet, actual: plain(count.div(whole)) }
  })
}
