/** Writes the demo's tables and gates anew: `npm run demo`, or as many street trees as are asked for: `npm run demo -- 100000 FILE`. */
import { createWriteStream } from 'node:fs'
import { mkdir, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { stringify } from 'csv-stringify'
import { DEMO_GATES, gateText } from './gates'
import { STREET_TREE_COLUMNS, streetTrees } from './street-trees'
import { DEMO_TABLES, withHeader } from './tables'

export async function writeCsv(records: Iterable<string[]>, path: string): Promise<void> {
  await mkdir(dirname(path), { recursive: true })
  await pipeline(Readable.from(records), stringify({ record_delimiter: '\r\n' }), createWriteStream(path))
}

async function main([count, path]: string[]): Promise<void> {
  if (count !== undefined) {
    if (!/^[1-9]\d{0,7}$/.test(count) || path === undefined) throw new Error('Say how many trees, up to 99,999,999, and which file to write: npm run demo -- 100000 trees.csv')
    await writeCsv(withHeader(STREET_TREE_COLUMNS, streetTrees(Number(count))), path)
    return
  }
  for (const { file, records } of DEMO_TABLES) await writeCsv(records(), join('demo', 'tables', file))
  await mkdir(join('demo', 'gates'), { recursive: true })
  for (const { file, document } of DEMO_GATES) await writeFile(join('demo', 'gates', file), gateText(document))
}

if (process.argv[1]?.endsWith('write.ts')) await main(process.argv.slice(2))
