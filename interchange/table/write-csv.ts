/** Records as delimited text (RFC 4180, and its kin with other delimiters). */
import { stringify } from 'csv-stringify/sync'

export interface CsvFormat {
  delimiter: string
  lineEnd: string
}

/** RFC 4180 clause 2.1: lines end in CR LF. */
export const PLAIN_CSV: CsvFormat = { delimiter: ',', lineEnd: '\r\n' }

/** Whatever ends the lines of the file, readers may take either half of it for the end of one. */
const ANY_LINE_END = /[\r\n]/

export function csvText(records: readonly (readonly string[])[], { delimiter, lineEnd }: CsvFormat): string {
  // A record of one empty value would be an empty line, which is none.
  const quoted_match = records.some((record) => record.length === 1 && record[0] === '') ? /^$|[\r\n]/ : ANY_LINE_END
  return stringify(records as string[][], { delimiter, record_delimiter: lineEnd, quoted_match })
}
