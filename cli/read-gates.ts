/** Gates from a file: a document of ours, a library of several, or DMN. */
import { findNodeAtLocation, type JSONPath, type ParseError, parseTree, printParseErrorCode } from 'jsonc-parser'
import { gateDocumentSchema, librarySchema } from '@dime-gate/contract/gate-document'
import { nearestName } from '@dime-gate/core/expression/names'
import { type ReadyGate, readyGates } from '@dime-gate/core/bulk/decide-gates'
import type { BlankPolicy, Gate, Library } from '@dime-gate/core/gate/document'
import { gatesUsedBy } from '@dime-gate/core/gate/gate-order'
import { gateProblemWords } from '@dime-gate/core/gate/gate-problem-words'
import { lower } from '@dime-gate/core/rule/lower'
import { type DocumentShapes, readDmn } from '@dime-gate/interchange/dmn/dmn'
import { placeOf, SourceError } from '@dime-gate/interchange/source-problem'
import { CommandError, fileTrouble } from './command-error'
import { readTextFile } from './read-text-file'

export interface GateFile {
  file: string
  kind: 'document' | 'library' | 'dmn'
  library: Library
}

const SHAPES: DocumentShapes = {
  gate: (data) => gateDocumentSchema.safeParse(data).data ?? null,
  conditions: (data) => librarySchema.safeParse({ conditions: data, gates: [] }).data?.conditions ?? null,
}

/** @throws CommandError where the file cannot be read, or its gates cannot decide */
export async function readGateFile(file: string): Promise<GateFile> {
  const text = await readTextFile(file)
  if (text.trim() === '') throw fileTrouble(file, 'The file is empty. A gate is a JSON document or a DMN file.', { line: 1, column: 1 })
  return text.trimStart().startsWith('<') ? dmnFile(file, text) : documentFile(file, text)
}

function dmnFile(file: string, text: string): GateFile {
  try {
    const library = readDmn(text, SHAPES)
    if (library.gates.length === 0) throw fileTrouble(file, 'The file has no decision.', { line: 1, column: 1 })
    return { file, kind: 'dmn', library }
  } catch (error) {
    if (error instanceof SourceError) throw fileTrouble(file, error.message, error.problem)
    throw error
  }
}

function documentFile(file: string, text: string): GateFile {
  const errors: ParseError[] = []
  const root = parseTree(text, errors, { disallowComments: true })
  const [first] = errors
  if (first) throw fileTrouble(file, `This is not JSON: ${printParseErrorCode(first.error)}.`, placeOf(text, first.offset))
  const data: unknown = JSON.parse(text)
  const at = (path: JSONPath) => {
    // What is missing is told where it should be.
    for (let known = path; ; known = known.slice(0, -1)) {
      const node = root && findNodeAtLocation(root, known)
      if (node || known.length === 0) return placeOf(text, node?.offset ?? 0)
    }
  }
  const isLibrary = typeof data === 'object' && data !== null && 'gates' in data
  const read = (isLibrary ? librarySchema : gateDocumentSchema).safeParse(data)
  if (!read.success) {
    const [issue] = read.error.issues
    const path = issue!.path as JSONPath
    throw fileTrouble(file, `${path.length > 0 ? `“${path.join('.')}”: ` : ''}${issue!.message}. This is not a gate's document.`, at(path))
  }
  const library: Library = isLibrary ? (read.data as Library) : { conditions: [], gates: [read.data as Gate] }
  library.gates.forEach((gate, index) => {
    const lowering = lower(gate, library)
    if (!('problems' in lowering)) return
    const [problem] = lowering.problems
    const path = problem!.path.split('.').map((step) => (/^\d+$/.test(step) ? Number(step) : step))
    const isOwn = path[0] !== 'conditions'
    throw fileTrouble(file, `${isOwn ? `“${problem!.path}” of the gate “${gate.name}”` : `“${problem!.path}”`}: ${gateProblemWords(problem!)}`, at(isOwn && isLibrary ? ['gates', index, ...path] : path))
  })
  return { file, kind: isLibrary ? 'library' : 'document', library }
}

/**
 * The gates to decide by, each after those that it needs.
 * @param decision only this one and what it needs; all where undefined
 * @param blank put in place of every input's own blank policy
 */
export function chosenGates({ file, library }: GateFile, decision: string | undefined, blank: BlankPolicy | undefined): ReadyGate[] {
  const gates = blank ? library.gates.map((gate): Gate => ({ ...gate, inputs: gate.inputs.map((input) => ({ ...input, blank })) })) : library.gates
  const ready = readyGates({ ...library, gates })
  if ('problems' in ready) {
    const [name, problems] = [...ready.problems][0]!
    throw fileTrouble(file, `The gate “${name}” cannot decide: ${gateProblemWords(problems[0]!)}`)
  }
  if (decision === undefined) return ready.ready
  const byName = new Map(gates.map((gate) => [gate.name, gate]))
  if (!byName.has(decision)) {
    const nearest = nearestName(decision, byName.keys())
    throw new CommandError(`${file}: There is no decision “${decision}” in it.${nearest ? ` Did you mean “${nearest}”?` : ` There are: ${[...byName.keys()].join(', ')}.`}`)
  }
  const needed = new Set<string>()
  const visit = (name: string): void => {
    if (needed.has(name)) return
    needed.add(name)
    gatesUsedBy(byName.get(name)!).forEach(visit)
  }
  visit(decision)
  return ready.ready.filter(({ gate }) => needed.has(gate.name))
}
