/** Rows of a run's relation in the text format of COPY. */
import type { ReadyGate } from '@dime-gate/core/bulk/decide-gates'
import type { Result } from '@dime-gate/core/result/result'
import { isOfOneRule, type LoweredEntry, NONE, STATUSES } from '@dime-gate/core/rule/rules'
import { valueTextAt } from '@dime-gate/core/table/table'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { COPY_NULL, toCopyText } from '../database/copy-text'
import type { RecordsBatch } from '../table/read-column'

/** Rows that are handed over at a time. */
const AT_ONCE = 4096

const copied = (text: string | null) => (text === null ? COPY_NULL : toCopyText(text))

export function rowWriter({ lowered, gate }: ReadyGate): (batch: RecordsBatch, result: Result) => Generator<string> {
  const written = (entries: readonly LoweredEntry[] | null) => (entries?.every((entry) => 'value' in entry) ? entries.map((entry) => ('value' in entry && entry.value !== null ? toCopyText(textOfValue(entry.value)) : COPY_NULL)).join('\t') : null)
  const byRule = lowered.rules.map(({ entries }) => written(entries))
  const otherwise = lowered.otherwise && written(lowered.otherwise)
  const isWritten = byRule.every((text) => text !== null) && (otherwise !== null || !lowered.otherwise) && isOfOneRule(lowered)
  const nothing = gate.outcomes.map(() => COPY_NULL).join('\t')
  return function* (batch, result) {
    const outcomes = isWritten ? [] : [...result.outcomes().values()]
    const { records, texts } = batch
    let rows = ''
    for (let at = 0; at < records.length; at++) {
      const { status, rule } = result.decisions.at(at)
      const gives = !isWritten ? outcomes.map((column) => copied(valueTextAt(column, at))).join('\t') : rule !== NONE ? byRule[rule] : status === 'otherwise' ? otherwise : nothing
      rows += `${records[at]}\t${STATUSES.indexOf(status)}\t${rule === NONE ? COPY_NULL : rule}\t${gives}`
      for (const { values, unreadable } of texts) rows += `\t${copied(values[at]!)}\t${copied(unreadable[at]!)}`
      rows += '\n'
      if (at % AT_ONCE === AT_ONCE - 1) {
        yield rows
        rows = ''
      }
    }
    yield rows
  }
}
