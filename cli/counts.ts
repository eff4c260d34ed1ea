/** How many records got which label, as `apply` tells it at its end. */
import type { ReadyGate } from '@dime-gate/core/bulk/decide-gates'
import { STATUSES, type Status } from '@dime-gate/core/rule/rules'
import type { DecidedRecords } from './decide-records'

export interface Counts {
  add(decided: DecidedRecords, length: number, firstRecord: number): void
  text(): string
}

/** A computed outcome can have as many values as there are records; past so many they are not listed. */
const MOST_LABELS = 1000

export function countsOf(gates: readonly ReadyGate[]): Counts {
  let records = 0
  const perGate = gates.map(({ gate }) => ({
    gate,
    labels: new Map(gate.outcomes[0]!.labels.map(({ value }) => [value, 0])),
    statuses: new Map<Status, number>(),
    unlisted: 0,
  }))
  const unreadable = new Map<string, { count: number; record: number; text: string }>()
  return {
    add(decided, length, firstRecord) {
      records += length
      perGate.forEach((one, index) => {
        const { outcomes, statuses } = decided.results[index]!
        for (let at = 0; at < length; at++) {
          const status = statuses[at]!
          one.statuses.set(status, (one.statuses.get(status) ?? 0) + 1)
          if (status !== 'labelled') continue
          const label = outcomes[0]![at]!
          const before = one.labels.get(label)
          if (before === undefined && one.labels.size >= MOST_LABELS) one.unlisted++
          else one.labels.set(label, (before ?? 0) + 1)
        }
      })
      for (const [input, texts] of decided.unreadable) {
        const [first] = texts
        const before = unreadable.get(input) ?? { count: 0, record: firstRecord + first![0], text: first![1] }
        unreadable.set(input, { ...before, count: before.count + texts.size })
      }
    },
    text() {
      const lines: [string, number | null][] = []
      for (const { gate, labels, statuses, unlisted } of perGate) {
        lines.push([`${gate.name}, ${records} ${records === 1 ? 'record' : 'records'}`, null])
        for (const [label, count] of labels) lines.push([`  ${label === '' ? '(no value)' : label}`, count])
        if (unlisted > 0) lines.push(['  (other values)', unlisted])
        for (const status of STATUSES) if (status !== 'labelled' && (statuses.get(status) ?? 0) > 0) lines.push([`  [${status}]`, statuses.get(status)!])
      }
      if (unreadable.size > 0) lines.push(['unreadable', null])
      for (const [input, { count, record, text }] of unreadable) lines.push([`  ${input}, first in record ${record + 1}: “${text.trim().slice(0, 40)}”`, count])
      const width = Math.max(...lines.flatMap(([text, count]) => (count === null ? [] : [[...text].length])), 0)
      return `${lines.map(([text, count]) => (count === null ? text : `${text}${' '.repeat(width - [...text].length)}  ${count}`)).join('\n')}\n`
    },
  }
}
