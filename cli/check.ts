/** `check`: what is known of gates before any data. */
import type { ReadyGate } from '@dime-gate/core/bulk/decide-gates'
import { asksForToday } from '@dime-gate/core/rule/used-inputs'
import { findingsOf } from '@dime-gate/core/finding/findings'
import { exampleWords, findingWords } from '@dime-gate/core/finding/finding-words'
import type { Finding, Findings } from '@dime-gate/core/finding/finding'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { DateValue, Value } from '@dime-gate/core/value/value'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { CommandError } from './command-error'
import { outputTo } from './output-file'
import { chosenGates, readGateFile } from './read-gates'

export interface CheckOptions {
  gate: string
  asOf?: DateValue
  decision?: string
  json?: boolean
}

const FOUND_ERRORS = 1
const ANY_DAY = parseDate('1970-01-01')!

export async function check(options: CheckOptions): Promise<void> {
  const gates = chosenGates(await readGateFile(options.gate), options.decision, undefined)
  const needsDay = gates.find(({ lowered }) => asksForToday(lowered))
  if (needsDay && !options.asOf) throw new CommandError(`“${needsDay.gate.name}” asks what day it is. Say which day counts as today, as in --as-of 2026-03-02.`)
  const found = gates.map((gate) => ({ gate, findings: findingsOf(gate.lowered, options.asOf ?? ANY_DAY) }))
  const output = await outputTo('-')
  await output.write(options.json ? `${JSON.stringify(found.map(asData), null, 2)}\n` : found.map(asText).join('\n'))
  await output.finish()
  if (found.some(({ findings }) => findings.findings.some(({ severity }) => severity === 'error'))) process.exitCode = FOUND_ERRORS
}

interface Found {
  gate: ReadyGate
  findings: Findings
}

function asData({ gate, findings }: Found) {
  return {
    gate: gate.gate.name,
    findings: findings.findings.map((finding) => ({ ...finding, rules: finding.rules.map((rule) => rule + 1), example: exampleTexts(finding), text: findingWords(finding, pathsOf(gate)) })),
    more: findings.more, unproven: findings.unproven.map((rule) => rule + 1), areGapsProven: findings.areGapsProven,
  }
}

/** What matters in the example, in canonical text. */
function exampleTexts({ example, concerns }: Finding): Record<string, string | null> | null {
  return example && Object.fromEntries(concerns.map((name) => [name, textOrNull(example[name] ?? null)]))
}

function textOrNull(value: Value): string | null {
  return value === null ? null : textOfValue(value)
}

function asText({ gate, findings }: Found): string {
  const lines = findings.findings.map((finding) => {
    const example = exampleWords(finding)
    return `${finding.severity.padEnd(7)}  ${finding.kind}: ${findingWords(finding, pathsOf(gate))}${example === '' ? '' : ` Example: ${example}.`}`
  })
  const more = Object.entries(findings.more).map(([kind, count]) => `…        and ${count} more of the kind “${kind}”`)
  const left = findings.areGapsProven ? [] : ['…        not all gaps could be looked for']
  const unproven = findings.unproven.length > 0 ? [`…        not settled whether these rules are reached or matter: ${findings.unproven.map((rule) => rule + 1).join(', ')}`] : []
  const all = [...lines, ...more, ...left, ...unproven]
  return `${gate.gate.name}: ${all.length === 0 ? 'nothing found' : `${findings.findings.length} ${findings.findings.length === 1 ? 'finding' : 'findings'}`}\n${all.map((line) => `  ${line}\n`).join('')}`
}

function pathsOf({ lowered }: ReadyGate): string[] {
  return lowered.rules.map(({ path }) => path)
}
