import { createReadStream, createWriteStream } from 'node:fs'
import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { parse } from 'csv-parse'
import { stringify } from 'csv-stringify'
import type { RulesGate } from '@dime-gate/core/gate/document'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { shell } from '../tools/shell'
import { type Figure, median, timed } from './figure'
import { treesFile } from './trees'

const RECORDS = 1_000_000
const MOST = 3
const ROUNDS = 3

/** Twenty rules over numbers, texts and dates of the trees. */
function inspectionRules(): RulesGate {
  const places = ['school', 'play area', 'footway', 'road']
  const pairs = Array.from({ length: 20 }, (_, at): [string, string] => {
    const decay = 95 - 4 * at
    const second = [`Lean >= ${20 - at}`, `"${places[at % 4]}" = Stands by`, `Height > ${5 + at}`, `Next due < @"2026-${String((at % 12) + 1).padStart(2, '0')}-01"`][at % 4]!
    return [`Decay >= ${decay} and ${second}`, `priority ${at + 1}`]
  })
  const inputs = [anInput('Decay', 'number', { unit: '%' }), anInput('Lean', 'number'), anInput('Height', 'number'), anInput('Stands by', 'text'), anInput('Next due', 'date')]
  return rulesGate(inputs, pairs, { name: 'Inspection', otherwise: [{ is: 'next round' }] })
}

export const applyAgainstCopy: Figure = {
  name: '`apply` of 1,000,000 records × 12 columns, 20 rules, against a copy by csv-parse and csv-stringify',
  reach: `at most ${MOST} ×`,
  async measure() {
    const { path } = await treesFile(RECORDS)
    const [gate, out, copy] = ['bench-gate.json', 'bench-applied.csv', 'bench-copied.csv'].map((name) => join('.data', name)) as [string, string, string]
    await writeFile(gate, JSON.stringify(inspectionRules()))
    const [applied, copied]: [number[], number[]] = [[], []]
    // Turn and turn about, so that whatever else the machine does falls on both alike.
    for (let round = 0; round < ROUNDS; round++) {
      applied.push(await timed(() => shell(process.execPath, ['tools/dimegate.mjs', 'apply', '--gate', gate, '--in', path, '--out', out])))
      copied.push(await timed(() => pipeline(createReadStream(path), parse(), stringify(), createWriteStream(copy))))
    }
    const ratio = median(applied.map((time, round) => time / copied[round]!))
    return { measured: `${ratio.toFixed(2)} × (${(median(applied) / 1000).toFixed(1)} s, copy ${(median(copied) / 1000).toFixed(1)} s)`, ok: ratio <= MOST }
  },
}
