/** In which format something goes out: the ending of its address. */
import type { Context } from 'koa'
import { mostRecords, MEDIA_TYPES, OUT_FORMATS, type OutFormat } from '@dime-gate/interchange/table/out-formats'
import { refusals } from './refusal'

/** @throws Refusal `not-found` for a format that there is none of, `too-large` for one that cannot hold so many records */
export function outFormatOf(context: Context, records: number): OutFormat {
  const format = OUT_FORMATS.find((one) => one === context.params.format)
  if (!format) throw refusals.nothingAt(context.path)
  if (records > mostRecords(format)) throw refusals.tooManyForSheet(records, mostRecords(format))
  return format
}

/** Says what comes: a file to be kept, under a name. */
export function attach(context: Context, name: string, format: OutFormat): void {
  context.type = MEDIA_TYPES[format]
  context.attachment(`${name}.${format}`)
  // What is attached is told by its ending, and that alone says too little of some.
  context.type = MEDIA_TYPES[format]
}
