/** Rows of a run's relation in the text format of COPY. What was looked at goes on as the bytes in which it came. */
import type { ReadyGate } from '@dime-gate/core/bulk/decide-gates'
import { AFTER_RULES } from '@dime-gate/core/bulk/decisions'
import type { Result } from '@dime-gate/core/result/result'
import { isOfOneRule, type LoweredEntry, STATUSES } from '@dime-gate/core/rule/rules'
import { type Column, valueTextAt } from '@dime-gate/core/table/table'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { COPY_NULL, toCopyText } from '../database/copy-text'
import type { RecordsBatch } from '../table/read-column'

/** Bytes that are handed over at a time. */
const AT_ONCE = 1 << 18
const LINE_END = 0x0a

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
  // Where all results are written out, a decision's fields are always the same: by its code.
  const byCode = [
    ...lowered.rules.map(({ entries }, rule) => fields(code.get('labelled')!, rule, ...written(entries))),
    ...AFTER_RULES.map((status) => fields(code.get(status)!, COPY_NULL, ...(status === 'otherwise' && lowered.otherwise ? written(lowered.otherwise) : nothing))),
  ]
  return function* ({ rows, fields: columns }, computed, result) {
    const { decisions } = result
    const outcomes = isWritten ? [] : [...result.outcomes().values()]
    const decisionAt = (at: number): Buffer => {
      if (isWritten) return byCode[decisions.codeAt(at)]!
      const { status, rule } = decisions.at(at)
      return fields(code.get(status)!, rule < 0 ? COPY_NULL : rule, ...outcomes.map((column) => copied(valueTextAt(column, at))))
    }
    // What was looked at stands behind the record's number, in this order, with the same signs between: it goes on as it came.
    const last = columns.reduce((most, { value, unreadable }) => Math.max(most, value, unreadable ?? 0), 0)
    const { bytes } = rows
    let [out, used] = [Buffer.allocUnsafe(AT_ONCE), 0]
    for (let at = 0; at < rows.length; at++) {
      const decision = decisionAt(at)
      const figures = computed.length === 0 ? NOTHING : fields(...computed.map((column) => copied(valueTextAt(column, at))))
      const [start, recordEnd, end] = [rows.start(at, 0), rows.end(at, 0), rows.end(at, last)]
      const size = end - start + decision.length + figures.length + 1
      if (used + size > out.length) {
        yield out.subarray(0, used)
        ;[out, used] = [Buffer.allocUnsafe(Math.max(AT_ONCE, size)), 0]
      }
      // Loops: for so few bytes a call to copy them costs more.
      for (let from = start; from < recordEnd; from++) out[used++] = bytes[from]!
      for (let from = 0; from < decision.length; from++) out[used++] = decision[from]!
      for (let from = recordEnd; from < end; from++) out[used++] = bytes[from]!
      used += figures.copy(out, used)
      out[used++] = LINE_END
    }
    yield out.subarray(0, used)
  }
}
