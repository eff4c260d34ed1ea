/** `apply`: the records of a file, each with what the gate gives it. */
import { createReadStream } from 'node:fs'
import type { BlankPolicy } from '@dime-gate/core/gate/document'
import { asksForToday } from '@dime-gate/core/rule/used-inputs'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { DateValue } from '@dime-gate/core/value/value'
import { detectEncoding, type Encoding, utf8Decoding } from '@dime-gate/interchange/table/decode'
import { FileError } from '@dime-gate/interchange/table/problem'
import { type Delimiter, recordReader } from '@dime-gate/interchange/table/read-records'
import { csvText } from '@dime-gate/interchange/table/write-csv'
import { addedColumns, checkHeaders } from './added-columns'
import { bindColumns, bindingsFrom } from './bind-columns'
import { CommandError, fileTrouble } from './command-error'
import { countsOf } from './counts'
import { type RecordDecider, recordDecider } from './decide-records'
import { type Output, outputTo } from './output-file'
import { chosenGates, readGateFile } from './read-gates'
import { fileWords } from './read-text-file'
import type { Writing } from './read-values'

export interface ApplyOptions extends Writing {
  gate: string
  in: string
  out: string
  asOf?: DateValue
  decision?: string
  blank?: BlankPolicy
  why?: boolean
  bind: string[]
  delimiter: Delimiter
  encoding?: Encoding
}

/** So many records are decided at once: enough for bitmaps to pay, few enough to be forgotten soon. */
const AT_ONCE = 8192
/** Bytes read at a time. */
const PIECE = 256 * 1024
const [LINE_FEED, RETURN] = [0x0a, 0x0d]
const ANY_DAY = parseDate('1970-01-01')!

export async function apply(options: ApplyOptions): Promise<void> {
  if (options.gate === '-' && options.in === '-') throw new CommandError('--gate and --in cannot both be standard input.')
  const gateFile = await readGateFile(options.gate)
  const gates = chosenGates(gateFile, options.decision, options.blank)
  const needsDay = gates.find(({ lowered }) => asksForToday(lowered))
  if (needsDay && !options.asOf) throw new CommandError(`“${needsDay.gate.name}” asks what day it is. Say which day counts as today, as in --as-of 2026-03-02.`)
  const added = addedColumns(gateFile, gates, options.why === true)
  const counts = countsOf(gates)
  const asked = bindingsFrom(options.bind)
  let output: Output | null = null
  let decide: RecordDecider | null = null
  let done = 0
  try {
    for await (const { records, newline, isFirst } of recordsOf(options)) {
      const body = isFirst ? records.slice(1) : records
      const format = { delimiter: options.delimiter, lineEnd: newline }
      if (isFirst) {
        const [headers] = records
        checkHeaders(headers!, added, options.in)
        decide = recordDecider(gates, bindColumns(gates, headers!, asked, options.in), options, options.asOf ?? ANY_DAY)
        output = await outputTo(options.out)
        await output.write(csvText([[...headers!, ...added.map(({ header }) => header)]], format))
      }
      for (let from = 0; from < body.length; from += AT_ONCE) {
        const batch = body.slice(from, from + AT_ONCE)
        const decided = decide!(batch)
        counts.add(decided, batch.length, done)
        done += batch.length
        const lines = batch.map((record, at) => [...record, ...added.map((column) => column.text(decided, at))])
        if (!(await output!.write(csvText(lines, format)))) return
      }
    }
    await output!.finish()
  } catch (error) {
    await output?.abandon()
    throw error
  }
  process.stderr.write(counts.text())
}

interface Piece {
  records: string[][]
  /** What ends the file's lines. */
  newline: string
  /** Whether the first of the records names the columns. */
  isFirst: boolean
}

async function* recordsOf({ in: file, delimiter, encoding }: ApplyOptions): AsyncGenerator<Piece> {
  const reader = recordReader(delimiter)
  let decoding: ReturnType<typeof utf8Decoding> | null = null
  let waiting: string[][] = []
  let isFirst = true
  let newline = '\n'
  const piece = (): Piece => {
    const made = { records: waiting, newline, isFirst }
    waiting = []
    isFirst = false
    return made
  }
  const trouble = () => {
    const problem = reader.problem()
    return problem && fileTrouble(file, problem.message, problem)
  }
  try {
    for await (const bytes of bytesOf(file)) {
      const isStart = decoding === null
      decoding ??= utf8Decoding(encoding ?? detectEncoding(bytes))
      const utf8 = decoding.decode(bytes)
      if (isStart && utf8[utf8.indexOf(LINE_FEED) - 1] === RETURN) newline = '\r\n'
      for (const record of reader.push(utf8).texts()) waiting.push(record)
      if (waiting.length >= AT_ONCE) yield piece()
      if (trouble()) break
    }
    if (!trouble()) {
      if (decoding) for (const record of reader.push(decoding.end()).texts()) waiting.push(record)
      for (const record of reader.end().texts()) waiting.push(record)
    }
  } catch (error) {
    if (error instanceof FileError) throw fileTrouble(file, error.message, error.problem)
    throw error
  }
  const found = trouble()
  if (found) throw found
  if (isFirst && waiting.length === 0) throw fileTrouble(file, 'The table is empty: it has no line that names its columns.', { line: 1, column: 1 })
  if (waiting.length > 0) yield piece()
}

/** Pieces of a file; the first is long enough to tell the encoding by. */
async function* bytesOf(file: string): AsyncGenerator<Uint8Array> {
  const stream = file === '-' ? process.stdin : createReadStream(file, { highWaterMark: PIECE })
  let start: Uint8Array | null = new Uint8Array()
  try {
    for await (const bytes of stream as AsyncIterable<Uint8Array>) {
      if (!start) {
        yield bytes
        continue
      }
      start = Buffer.concat([start, bytes])
      if (start.length < 4) continue
      yield start
      start = null
    }
  } catch (error) {
    if (error instanceof Error && 'code' in error) throw fileTrouble(file, fileWords(error as NodeJS.ErrnoException))
    throw error
  }
  if (start && start.length > 0) yield start
}
