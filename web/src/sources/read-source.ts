/** What people already have, as text: a chart of thresholds, a nested conditional, a DMN file, a gate’s own document; to gates. */
import { gateDocumentSchema, librarySchema } from '@dime-gate/contract/gate-document'
import type { Gate, NamedCondition, SharedCondition } from '@dime-gate/core/gate/document'
import { gateProblemWords } from '@dime-gate/core/gate/gate-problem-words'
import { readyGates } from '@dime-gate/core/bulk/decide-gates'
import { namesUsed } from '@dime-gate/core/gate/named-conditions'
import { parseDate } from '@dime-gate/core/value/temporal'
import { readChart } from '@dime-gate/interchange/chart/read-chart'
import { type ConditionalLanguage, readConditional } from '@dime-gate/interchange/conditional/gate-from-conditional'
import { readDmn } from '@dime-gate/interchange/dmn/dmn'
import { SourceError } from '@dime-gate/interchange/source-problem'

export const SOURCES = [
  { value: 'chart', title: 'a chart of thresholds' }, { value: 'openformula', title: 'a formula (OpenFormula)' }, { value: 'sql', title: 'SQL (CASE)' },
  { value: 'feel', title: 'FEEL (if … then … else)' }, { value: 'dmn', title: 'a DMN file' }, { value: 'document', title: 'a gate’s own document (JSON)' },
] as const
export type Source = (typeof SOURCES)[number]['value']

/** What is to be said of a text. @property from where in it, with `to`; null where it is about all of it */
export interface Note {
  severity: 'error' | 'warning' | 'note'
  words: string
  from: number | null
  to: number | null
}

/** @property gates each after those that feed it; none where a note is an error */
export interface ReadSource {
  gates: Gate[]
  notes: Note[]
  /** Of a single gate, by its rules or bands, where in the text each comes from; and where what is left over does. */
  branches?: Stretch[]
  rest?: Stretch | null
}

/** A part of a text: from `from` up to, not including, `to`. */
export interface Stretch {
  from: number
  to: number
}

/** What a text most likely is. */
export function sourceOf(text: string): Source {
  const begin = text.trimStart()
  if (/^<[?!a-z]/i.test(begin)) return 'dmn'
  if (begin.startsWith('{')) return 'document'
  if (/^if\b[\s\S]*\bthen\b/i.test(begin)) return 'feel'
  if (/\bcase\b[\s\S]*\bend\b/i.test(begin)) return 'sql'
  // Charts too have words before brackets: crown (90–100).
  return /^(?:of:)?=|^(?:ifs?|iferror|ifna|switch|choose|[vhx]?lookup|index)\s*\(/i.test(begin) ? 'openformula' : 'chart'
}

/** @param input what a chart is on, where it does not say itself */
export function readSource(text: string, source: Source, { name, input, asOf }: { name: string; input?: string; asOf: string }): ReadSource {
  if (text.trim() === '') return { gates: [], notes: [] }
  switch (source) {
    case 'chart':
      return fromChart(text, name, input)
    case 'dmn':
      return fromDmn(text)
    case 'document':
      return fromDocument(text)
    default:
      return fromConditional(text, source, name, asOf)
  }
}

const trouble = (words: string, from: number | null = null, to: number | null = null): ReadSource => ({ gates: [], notes: [{ severity: 'error', words, from, to }] })

function fromChart(text: string, name: string, input: string | undefined): ReadSource {
  const { scale, remarks } = readChart(text, { name, ...(input === undefined ? {} : { input }) })
  return { gates: scale ? [scale] : [], notes: remarks.map(({ severity, message, row }) => ({ severity, words: row === null ? message : `Line ${row}: ${message}`, ...lineAt(text, row) })) }
}

function lineAt(text: string, row: number | null): { from: number | null; to: number | null } {
  if (row === null) return { from: null, to: null }
  const lines = text.split('\n')
  const from = lines.slice(0, row - 1).reduce((sum, line) => sum + line.length + 1, 0)
  return { from, to: from + (lines[row - 1] ?? '').length }
}

function fromConditional(text: string, language: ConditionalLanguage, name: string, asOf: string): ReadSource {
  const read = readConditional(text, language, name, parseDate(asOf)!)
  if ('problem' in read) return trouble(read.problem.message, read.problem.from, Math.max(read.problem.to, read.problem.from + 1))
  const note = (words: string): Note => ({ severity: 'note', words, from: null, to: null })
  return { gates: [read.gate], branches: read.branches, rest: read.rest, notes: [...read.renamed.map(({ from, to }) => note(`“${from}” is called “${to}” here.`)), ...read.doubts.map(note)] }
}

const SHAPES = {
  gate: (data: unknown) => gateDocumentSchema.safeParse(data).data ?? null,
  conditions: (data: unknown) => librarySchema.safeParse({ conditions: data, gates: [] }).data?.conditions ?? null,
}

function fromDmn(text: string): ReadSource {
  try {
    const { gates, conditions } = readDmn(text, SHAPES)
    return gates.length === 0 ? trouble('The file has no decision.') : { gates: carrying(gates, conditions), notes: [] }
  } catch (error) {
    if (!(error instanceof SourceError)) throw error
    const { message, line, column } = error.problem
    const { from } = lineAt(text, line)
    return trouble(`Line ${line}: ${message}`, from! + column - 1, lineAt(text, line).to)
  }
}

function fromDocument(text: string): ReadSource {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch (error) {
    return trouble(`This is no JSON: ${(error as Error).message}.`)
  }
  const isLibrary = typeof data === 'object' && data !== null && 'gates' in data
  const read = (isLibrary ? librarySchema : gateDocumentSchema).safeParse(data)
  if (!read.success) return trouble(`${read.error.issues[0]!.path.join('.') || 'The document'}: ${read.error.issues[0]!.message}. This is no gate’s document.`)
  const { conditions, gates } = isLibrary ? (read.data as { conditions: NamedCondition[]; gates: Gate[] }) : { conditions: [], gates: [read.data as Gate] }
  const ready = readyGates({ conditions, gates })
  if ('ready' in ready) return { gates: carrying(ready.ready.map(({ gate }) => gate), conditions), notes: [] }
  const [gate, problems] = [...ready.problems][0]!
  return trouble(`“${gate}” cannot decide. ${gateProblemWords(problems[0]!)}`)
}

/** Gates carry what they know of named conditions with them; the same one under the same id in all of them. */
function carrying(gates: readonly Gate[], conditions: readonly NamedCondition[]): Gate[] {
  const shared = conditions.map((one): SharedCondition => ({ id: crypto.randomUUID(), ...one }))
  return gates.map((gate) => {
    if (gate.form !== 'rules' || gate.conditions || shared.length === 0) return gate
    const names = [...gate.inputs.map(({ name }) => name), ...shared.map(({ name }) => name)]
    const needed = new Set(gate.rules.flatMap(({ condition }) => namesUsed(condition, names)))
    // What those use in turn is needed too.
    for (const name of needed) for (const used of namesUsed(shared.find((one) => one.name === name)?.feel ?? '', names)) needed.add(used)
    const carried = shared.filter(({ name }) => needed.has(name))
    return carried.length === 0 ? gate : { ...gate, conditions: carried }
  })
}

/** The gates that are wanted, with those that feed them, in their order. @param unwanted names */
export function wantedOf(gates: readonly Gate[], unwanted: ReadonlySet<string>): Gate[] {
  const needed = new Set<string>()
  // Each stands after those that feed it.
  for (const { name, inputs } of gates.toReversed()) {
    if (unwanted.has(name) && !needed.has(name)) continue
    needed.add(name)
    for (const { source } of inputs) if (source.kind === 'gate') needed.add(source.gate)
  }
  return gates.filter(({ name }) => needed.has(name))
}

/** Gates under names that nobody has yet; what feeds another is known to it by its new name. */
export function underFreeNames(gates: readonly Gate[], free: (wanted: string, taken: readonly string[]) => string, taken: readonly string[]): Gate[] {
  const names = new Map<string, string>()
  for (const { name } of gates) names.set(name, free(name, [...taken, ...names.values()]))
  return gates.map((gate) => ({
    ...gate, name: names.get(gate.name)!,
    inputs: gate.inputs.map((input) => (input.source.kind === 'gate' ? { ...input, source: { ...input.source, gate: names.get(input.source.gate) ?? input.source.gate } } : input)),
  }))
}
