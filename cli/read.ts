/** `read`: a nested conditional or a chart of thresholds, as a gate's document. */
import { exampleWords, findingWords } from '@dime-gate/core/finding/finding-words'
import { lowered } from '@dime-gate/core/rule/lower'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { DateValue } from '@dime-gate/core/value/value'
import { readChart } from '@dime-gate/interchange/chart/read-chart'
import { type ConditionalLanguage, readConditional } from '@dime-gate/interchange/conditional/gate-from-conditional'
import { placeOf } from '@dime-gate/interchange/source-problem'
import type { Gate } from '@dime-gate/core/gate/document'
import { fileTrouble } from './command-error'
import { outputTo } from './output-file'
import { readTextFile } from './read-text-file'

export const SOURCES = ['sql', 'openformula', 'feel', 'chart'] as const

export interface ReadOptions {
  from: (typeof SOURCES)[number]
  in: string
  out: string
  name: string
  input?: string
  asOf?: DateValue
}

const ANY_DAY = parseDate('1970-01-01')!

/** Writes the document; what was noticed goes to standard error. */
export async function read(options: ReadOptions): Promise<void> {
  const text = await readTextFile(options.in)
  const { gate, noticed } = options.from === 'chart' ? fromChart(text, options) : fromConditional(text, options.from, options)
  const output = await outputTo(options.out)
  await output.write(`${JSON.stringify(gate, null, 2)}\n`)
  await output.finish()
  process.stderr.write(noticed.map((line) => `${line}\n`).join(''))
}

interface ReadGate {
  gate: Gate
  noticed: string[]
}

function fromChart(text: string, { in: file, name, input }: ReadOptions): ReadGate {
  const { scale, remarks } = readChart(text, { name, ...(input === undefined ? {} : { input }) })
  if (!scale) {
    const first = remarks.find(({ severity }) => severity === 'error')!
    throw fileTrouble(file, first.message, { line: first.row, column: null })
  }
  return { gate: scale, noticed: remarks.map(({ severity, row, code, message }) => `${severity}  ${row === null ? '' : `line ${row}, `}${code}: ${message}`) }
}

function fromConditional(text: string, language: ConditionalLanguage, { in: file, name, asOf }: ReadOptions): ReadGate {
  const result = readConditional(text, language, name, asOf ?? ANY_DAY)
  if ('problem' in result) throw fileTrouble(file, result.problem.message, placeOf(text, result.problem.from))
  const { gate, findings, renamed, doubts } = result
  const paths = lowered(gate).rules.map(({ path }) => path)
  return {
    gate,
    noticed: [
      ...doubts.map((doubt) => `note  doubt: ${doubt}`),
      ...renamed.map(({ from, to }) => `note  renamed: “${from}” is called “${to}” in the gate.`),
      ...findings.findings.map((finding) => `${finding.severity}  ${finding.kind}: ${findingWords(finding, paths)}${finding.example ? ` Example: ${exampleWords(finding)}.` : ''}`),
    ],
  }
}
