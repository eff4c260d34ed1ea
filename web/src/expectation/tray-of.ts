import type { Expected } from '@dime-gate/core/expectation/expectation'
import type { Tray } from '@dime-gate/core/result/tray'

/** Where the records are listed that an expectation counts. */
export function trayOf(of: Expected): Tray {
  if (of.kind === 'label') return { kind: 'label', label: of.label }
  return { kind: of.kind === 'status' ? of.status : of.of }
}
