import type { Check } from '@dime-gate/contract/expectation'
import type { Expected } from '@dime-gate/core/expectation/expectation'
import type { Tray } from '@dime-gate/core/result/tray'
import { isMissed } from './expectation-words'

/** The records that would mend it first, as many as are too many or too few; null where nothing is missed, or it is no count of a label among all. */
export function mendingTray(check: Check): (Tray & { kind: 'nearest' }) | null {
  const { expectation, off } = check
  if (!isMissed(check) || expectation.kind !== 'count' || expectation.of.kind !== 'label' || expectation.within) return null
  return { kind: 'nearest', label: expectation.of.label, isLosing: off > 0, most: Math.abs(off) }
}

/** Where the records are listed that an expectation counts. */
export function trayOf(of: Expected): Tray {
  if (of.kind === 'label') return { kind: 'label', label: of.label }
  return { kind: of.kind === 'status' ? of.status : of.of }
}
