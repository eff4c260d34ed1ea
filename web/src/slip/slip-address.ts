/** Whose slips, as it stands in an address: all, those with a label, or some by their numbers. */
import type { SlipsRequest } from '@dime-gate/contract/slip'

export function printedIn({ label, records }: Record<string, unknown>): SlipsRequest {
  // What is said twice counts as if it were said at once.
  const said = Array.isArray(records) ? records.join(',') : records
  const numbers = typeof said === 'string' ? said.split(',').map(Number).filter((one) => Number.isSafeInteger(one) && one > 0) : null
  return { label: typeof label === 'string' ? label : null, records: numbers }
}

/** @param zone where the numbers of hours are to be told as they are here */
export function printQuery({ label, records }: SlipsRequest, paper: string): string {
  return String(new URLSearchParams({ ...(label === null ? {} : { label }), ...(records === null ? {} : { records: records.join(',') }), ...(paper === 'a4' ? {} : { paper }) }))
}
