/** Whether a draft comes to what is expected of some records alone: of a group, or of one record. Which records those are is asked once. */
import type { Filter } from '@dime-gate/contract/change'
import type { Check, KeptExpectation } from '@dime-gate/contract/expectation'
import type { Column } from '@dime-gate/contract/table'
import { offBy } from '@dime-gate/core/expectation/expectation'
import type { Tray } from '@dime-gate/core/result/tray'
import { shallowRef, type ShallowRef, watch } from 'vue'
import { groupFilter } from '../run/by-group'
import { trayOf } from './tray-of'

export interface NarrowAsked {
  expected: readonly KeptExpectation[]
  columns: readonly Column[]
  /** Of the table that the records are of. */
  version: number
  labels: readonly string[]
  /** Moves whenever the draft has decided anew; 0 before the first time. */
  tick: number
}

/** @property list the numbers of the records that filters leave @property countsWithin how many of some records are in each tray */
export interface NarrowSource {
  list(filters: Filter[]): Promise<Int32Array>
  countsWithin(within: Int32Array, trays: Tray[]): Promise<number[]>
}

/** @returns those that could be told; what could not be asked for is left for a run to tell */
export function useNarrowChecks(asked: () => NarrowAsked, { list, countsWithin }: NarrowSource): ShallowRef<Check[]> {
  const checks = shallowRef<Check[]>([])
  let known = new Map<string, Promise<Int32Array>>()
  let version = 0
  let round = 0

  function recordsOf(filters: Filter[], of: number): Promise<Int32Array> {
    if (of !== version) known = new Map()
    version = of
    const key = JSON.stringify(filters)
    if (!known.has(key)) known.set(key, list(filters))
    known.get(key)!.catch(() => known.delete(key))
    return known.get(key)!
  }

  async function check(kept: KeptExpectation, { columns, version: of, labels }: NarrowAsked): Promise<Check[]> {
    const { expectation } = kept
    const values = expectation.kind === 'record' ? expectation.who : expectation.within ? [expectation.within] : []
    const filters = values.flatMap(({ column: id, value }) => {
      const column = columns.find((one) => one.id === id)
      return column ? [groupFilter({ value, isUnreadable: false }, column, 'whole')] : []
    })
    if (values.length === 0 || filters.length < values.length) return []
    const records = await recordsOf(filters, of)
    if (expectation.kind === 'count') {
      const [got] = await countsWithin(records, [trayOf(expectation.of)])
      return [{ ...kept, got: got!, of: records.length, off: offBy(expectation.bounds, got!, records.length), label: null, problem: null }]
    }
    // One that is there several times over gets the label where all of them do.
    const counts = await countsWithin(records, labels.map((label): Tray => ({ kind: 'label', label })))
    const labelled = counts.reduce((sum, one) => sum + one, 0)
    const wanted = expectation.label === null ? records.length - labelled : (counts[labels.indexOf(expectation.label)] ?? 0)
    const got = records.length > 0 && wanted === records.length ? 1 : 0
    const other = labels.find((label, at) => counts[at]! > 0 && label !== expectation.label) ?? null
    return [{ ...kept, got, of: records.length, off: got - 1, label: got === 1 ? expectation.label : other, problem: null }]
  }

  watch(() => { const { expected, version: of, tick, labels } = asked(); return JSON.stringify([expected, of, tick, labels]) }, async () => {
    const mine = ++round
    const now = asked()
    if (now.tick === 0) return
    const found = await Promise.all(now.expected.map((one) => check(one, now).catch(() => [])))
    if (mine === round) checks.value = found.flat()
  }, { immediate: true })
  return checks
}
