/** The formats in which a table goes out. */

/** Records that a sheet holds below its names. */
export const MOST_SHEET_RECORDS = 1_048_575

export const OUT_FORMATS = ['csv', 'xlsx', 'ods', 'json', 'jsonl', 'arrow'] as const
export type OutFormat = (typeof OUT_FORMATS)[number]
/** CSV is written by whoever has the texts as they were written. */
export type TypedFormat = Exclude<OutFormat, 'csv'>

export const MEDIA_TYPES: Record<OutFormat, string> = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  ods: 'application/vnd.oasis.opendocument.spreadsheet',
  json: 'application/json; charset=utf-8',
  jsonl: 'application/jsonl; charset=utf-8',
  arrow: 'application/vnd.apache.arrow.stream',
}

/** Records that a file of the format can hold. */
export function mostRecords(format: OutFormat): number {
  return format === 'xlsx' || format === 'ods' ? MOST_SHEET_RECORDS : Infinity
}
