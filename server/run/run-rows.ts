/** Rows of a run's relation in the text format of COPY. What was looked at goes on as the bytes in which it came. */
import type { ReadyGate } from '@dime-gate/core/bulk/decide-gates'
import type { Result } from '@dime-gate/core/result/result'
import { isOfOneRule, type LoweredEntry, STATUSES } from '@dime-gate/core/rule/rules'
import { type Column, valueTextAt } from '@dime-gate/core/table/table'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { COPY_NULL, toCopyText } from '../database/copy-text'
import type { RecordsBatch } from '../table/read-column'

/** Bytes that are handed over at a time. */
const AT_ONCE = 1 << 18
const [TAB, LINE_END] = [0x09, 0x0a]

const NOTHING = Buffer.alloc(0)
const copied = (text: string | null) => (text === null ? COPY_NULL : toCopyText(text))
const fields = (...texts: (string | number)[]) => Buffer.from(`\t${texts.join('\t')}`)

/** Whether a rule gives every record that it takes the same. */
export function givesTheSame({ lowered }: Pick<ReadyGate, 'lowered'>): boolean {
  return isOfOneRule(lowered) && [...lowered.rules.map(({ entries }) => entries), lowered.otherwise ?? []].every((entries) => entries.every((entry) => 'value' in entry))
}

/**
 * The fields are the record, its status, its rule, each outcome, then of each column its value and, where there are any, the text that
 * could not be read; then what was computed.
 */
export function rowWriter(ready: ReadyGate): (batch: RecordsBatch, computed: readonly Column[], result: Result) => Generator<Buffer> {
  const { lowered, gate } = ready
  const written = (entries: readonly LoweredEntry[]) => entries.map((entry) => ('value' in entry && entry.value !== null ? toCopyText(textOfValue(entry.value)) : COPY_NULL))
  const isWritten = givesTheSame(ready)
  const nothing = gate.outcomes.map(() => COPY_NULL)
  const code = new Map(STATUSES.map((status, at) => [status, at]))
  // Where all results are written out, a decision's fields are always the same.
  const byRule = lowered.rules.map(({ entries }, rule) => fields(code.get('labelled')!, rule, ...written(entries)))
  const byStatus = new Map(STATUSES.map((status) => [status, fields(code.get(status)!, COPY_NULL, ...(status === 'otherwise' && lowered.otherwise ? written(lowered.otherwise) : nothing))]))
  return function* ({ rows, fields: columns }, computed, result) {
    const outcomes = isWritten ? [] : [...result.outcomes().values()]
    const decisionAt = (at: number): Buffer => {
      const { status, rule } = result.decisions.at(at)
      if (isWritten) return status === 'labelled' ? byRule[rule]! : byStatus.get(status)!
      return fields(code.get(status)!, rule < 0 ? COPY_NULL : rule, ...outcomes.map((column) => copied(valueTextAt(column, at))))
    }
    const taken = [0, ...columns.flatMap(({ value, unreadable }) => [value, ...(unreadable === null ? [] : [unreadable])])]
    const { bytes } = rows
    let [out, used] = [Buffer.allocUnsafe(AT_ONCE), 0]
    for (let at = 0; at < rows.length; at++) {
      const decision = decisionAt(at)
      const figures = computed.length === 0 ? NOTHING : fields(...computed.map((column) => copied(valueTextAt(column, at))))
      let size = decision.length + taken.length + figures.length
      for (const field of taken) size += rows.end(at, field) - rows.start(at, field)
      if (used + size > out.length) {
        yield out.subarray(0, used)
        ;[out, used] = [Buffer.allocUnsafe(Math.max(AT_ONCE, size)), 0]
      }
      for (let place = 0; place < taken.length; place++) {
        if (place > 0) out[used++] = TAB
        const end = rows.end(at, taken[place]!)
        // A loop: for so few bytes a call to copy them costs more.
        for (let from = rows.start(at, taken[place]!); from < end; from++) out[used++] = bytes[from]!
        if (place === 0) for (let from = 0; from < decision.length; from++) out[used++] = decision[from]!
      }
      used += figures.copy(out, used)
      out[used++] = LINE_END
    }
    yield out.subarray(0, used)
  }
}
