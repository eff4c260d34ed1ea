/** Gates to and from DMN 1.5 XML. */
import type { Gate, Library, Label, NamedCondition } from '@dime-gate/core/gate/document'
import { GateError } from '../gate-error'
import { gatesFromModel } from './gates-from-model'
import type { DmnDecision, DmnModel, Feel } from './model'
import { modelFromGates } from './model-from-gates'
import { readModel } from './read-model'
import { writeModel } from './write-model'

/** Checks the shape of what a file's extension elements hold; null where it is not of that shape. */
export interface DocumentShapes {
  gate(data: unknown): Gate | null
  conditions(data: unknown): NamedCondition[] | null
}

/** @throws GateError where the gates cannot decide, or mean different things by one name */
export function writeDmn(library: Library): string {
  return writeModel(modelFromGates(library))
}

/**
 * Reads a DMN file. A decision that was written here, and not changed since, comes back as the very gate it was;
 * from one that was changed, the colours, marks and ranks of its labels are kept.
 * @returns the gates in the order in which they can be decided
 * @throws SourceError at the first thing that is not supported
 */
export function readDmn(text: string, shapes: DocumentShapes): Library {
  const model = readModel(text)
  const conditions = (model.conditions === null ? null : shapes.conditions(parsed(model.conditions))) ?? []
  const own = new Map(model.decisions.flatMap(({ name, document }): [string, Gate][] => {
    const gate = document === null ? null : shapes.gate(parsed(document))
    return gate?.name === name ? [[name, gate]] : []
  }))
  const isWhole = own.size === model.decisions.length
  // A file that is just as it was written is known to be right; only others are read decision by decision.
  const asWritten = isWhole ? unchangedOf({ conditions, gates: [...own.values()] }, model) : new Set<string>()
  if (isWhole && asWritten.size === own.size) return { conditions, gates: [...own.values()] }
  const read = gatesFromModel(model)
  if (own.size === 0) return { conditions, gates: read.map(({ gate }) => gate) }
  const unchanged = unchangedOf({ conditions, gates: read.map(({ gate }) => own.get(gate.name) ?? gate) }, model)
  return { conditions, gates: read.map(({ gate }) => (own.has(gate.name) ? (unchanged.has(gate.name) ? own.get(gate.name)! : withLooksOf(own.get(gate.name)!, gate)) : gate)) }
}

/** The gates that would be written as the very decisions of the model. */
function unchangedOf(library: Library, model: DmnModel): Set<string> {
  const again = modelOf(library)
  const written = new Map(again?.decisions.map((decision) => [decision.name, decision]))
  return new Set(model.decisions.flatMap((decision) => {
    const before = written.get(decision.name)
    return before && JSON.stringify(gist(before, again!)) === JSON.stringify(gist(decision, model)) ? [decision.name] : []
  }))
}

/** Null where the gates cannot be written, as when one was changed so that another no longer goes with it. */
function modelOf(library: Library): DmnModel | null {
  try {
    return modelFromGates(library)
  } catch (error) {
    if (error instanceof GateError) return null
    throw error
  }
}

function parsed(json: string): unknown {
  try {
    return JSON.parse(json)
  } catch {
    return null
  }
}

/** All of a decision that its gate can be told from. */
function gist({ variable, logic, requires }: DmnDecision, { inputs }: DmnModel) {
  const plain = (feel: Feel | null) => feel && feel.text.trim()
  const given = requires.flatMap(({ id }) => inputs.filter((input) => input.id === id))
    .map(({ name, type }) => [name, type.kind, type.isList]).toSorted(([a], [b]) => (String(a) < String(b) ? -1 : 1))
  if (logic.kind === 'literal') return [variable, given, plain(logic.expression)]
  const { hitPolicy, outputs, rules } = logic
  return [
    variable, given, hitPolicy, logic.inputs.map(({ expression }) => plain(expression)),
    outputs.map(({ name, type, values, otherwise }) => [name, type.kind, plain(values), plain(otherwise)]),
    rules.map(({ tests, entries, note }) => [tests.map(plain), entries.map(plain), note.trim()]),
  ]
}

/** The decision as it is now, with what its file has no place for: how labels look, and what a single outcome is called. */
function withLooksOf(own: Gate, gate: Gate): Gate {
  const isSingle = own.outcomes.length === 1 && gate.outcomes.length === 1
  const outcomes = gate.outcomes.map((outcome) => {
    const name = isSingle ? own.outcomes[0]!.name : outcome.name
    const looks = new Map(own.outcomes.find((before) => before.name === name)?.labels.map((label): [string, Label] => [label.value, label]))
    return { ...outcome, name, labels: outcome.labels.map((label) => looks.get(label.value) ?? label) }
  })
  return { ...gate, outcomes }
}
