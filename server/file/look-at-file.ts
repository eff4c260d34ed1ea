/** A look at a whole file before anything of it is stored: what it holds, and what of that could not be read. */
import type { ColumnStatistics, FileChoice, FileLook, Progress } from '@dime-gate/contract/table'
import { utf8Decoding } from '@dime-gate/interchange/table/decode'
import { PREVIEW_BYTES, type PreviewChoice, previewTable } from '@dime-gate/interchange/table/preview'
import { FileError } from '@dime-gate/interchange/table/problem'
import { leadingRecords, readingOf, type TableSettings } from '@dime-gate/interchange/table/settings'
import { BinaryRows } from '../database/copy-binary'
import { cellEncoder } from '../table/cell-encoder'
import { recordsOf } from '../table/records-of-file'
import type { OnTask } from '../threads/serve-tasks'
import { columnWatcher, type ColumnWatcher } from './column-watcher'
import { type FileSource, type OpenedSource, openSource, type PlainText } from './source'

export interface LookTask {
  kind: 'look'
  source: FileSource
  choice: FileChoice
}

export interface LookResult {
  look: FileLook
  plain: PlainText | null
}

/** Where more of a column's values than this cannot be read as their beginning suggested, it is taken for text. */
const TOO_MANY = 0.5

export async function lookAtFile(
  { source, choice }: LookTask,
  { say, signal }: Pick<OnTask<Progress>, 'say' | 'signal'>,
): Promise<LookResult> {
  const goOn = () => {
    if (signal.aborted) throw new Error('nobody waits for it any more')
  }
  const opened = await openSource(source, choice.format?.sheet ?? null, (records) => {
    goOn()
    say({ records, share: null, isWaiting: false })
  })
  const start = await startOf(opened)
  const chosen = choice as PreviewChoice
  const preview = previewTable(start, start.length === opened.size, chosen, opened.plain?.file ?? null)
  const told = (records: number, share: number) => {
    goOn()
    say({ records, share, isWaiting: false })
  }
  /** What is wrong far down in the file stands in the way like what is wrong in its beginning. */
  const look = async (): Promise<FileLook['statistics']> => {
    if (preview.problem) return null
    return statisticsOf(opened, preview.settings, told).catch((error: unknown) => {
      if (!(error instanceof FileError)) throw error
      preview.problem = error.problem
      return null
    })
  }
  let statistics = await look()
  const wrong =
    statistics?.columns.flatMap(({ unreadable, blank }, at) =>
      unreadable > TOO_MANY * (statistics!.records - blank) && chosen.columns?.[at]?.type === undefined ? [at] : [],
    ) ?? []
  if (wrong.length > 0) {
    for (const at of wrong) Object.assign(preview.settings.columns[at]!, { type: 'text', fraction: false })
    statistics = await look()
  }
  return { look: { ...preview, sheets: opened.sheets, statistics }, plain: opened.plain }
}

async function startOf(opened: OpenedSource): Promise<Uint8Array> {
  const pieces: Uint8Array[] = []
  let size = 0
  for await (const piece of opened.pieces()) {
    pieces.push(piece)
    if ((size += piece.length) >= PREVIEW_BYTES) break
  }
  return Buffer.concat(pieces).subarray(0, PREVIEW_BYTES)
}

/** Reads every value as it would be read on its way in. @throws FileError where a line cannot be read at all */
async function statisticsOf(
  opened: OpenedSource,
  settings: TableSettings,
  told: (records: number, share: number) => void,
): Promise<NonNullable<FileLook['statistics']>> {
  const watchers = settings.columns.map((column): ColumnWatcher => columnWatcher(cellEncoder(readingOf(settings, column)), column))
  // What would be stored is written, and let go of.
  const rows = new BinaryRows()
  let leading = leadingRecords(settings)
  let seen = 0
  let bytes = 0
  async function* counted(): AsyncGenerator<Uint8Array> {
    for await (const piece of opened.pieces()) {
      bytes += piece.length
      yield piece
    }
  }
  for await (const records of recordsOf(counted(), utf8Decoding(settings.encoding), settings)) {
    const { bytes: all, starts, ends, width } = records
    for (let record = leading; record < records.length; record++) {
      for (let at = 0; at < width; at++) watchers[at]!.look(all, starts[record * width + at]!, ends[record * width + at]!, rows, seen + 1)
      seen++
    }
    leading = Math.max(0, leading - records.length)
    rows.take()
    told(seen, opened.size === 0 ? 1 : bytes / opened.size)
  }
  return { records: seen, columns: watchers.map(({ statistics }): ColumnStatistics => statistics) }
}
