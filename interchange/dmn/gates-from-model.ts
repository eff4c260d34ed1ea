/** A DMN model as gates: each decision one, on inputs that pass when blank, as the standard has it. */
import { nameTrouble } from '@dime-gate/core/expression/names'
import type { Gate } from '@dime-gate/core/gate/document'
import { gateProblemWords, NAME_TROUBLE_WORDS } from '@dime-gate/core/gate/gate-problem-words'
import { lower } from '@dime-gate/core/rule/lower'
import { dependencyOrder } from '@dime-gate/core/gate/order'
import { type Place, sourceError } from '../source-problem'
import { expectedOf } from './expected-values'
import { inputOf, type Meaning } from './meaning'
import type { DmnDecision, DmnModel, DmnType } from './model'
import { readDecision } from './read-decision'

/** Components of structures that become inputs of their own, all together. */
const MOST_PARTS = 2000

export interface DecidedGate {
  gate: Gate
  decision: DmnDecision
}

/** @throws SourceError at the first thing that cannot be understood */
export function gatesFromModel(model: DmnModel): DecidedGate[] {
  return new Converter(model).run()
}

class Converter {
  private readonly decisions: ReadonlyMap<string, DmnDecision>
  /** By id, what it brings into the scope of whoever requires it. */
  private readonly offered = new Map<string, Map<string, Meaning>>()
  private parts = 0

  constructor(private readonly model: DmnModel) {
    this.decisions = new Map(model.decisions.map((decision) => [decision.id, decision]))
  }

  run(): DecidedGate[] {
    const seen = new Map<string, DmnDecision>()
    for (const decision of this.model.decisions) {
      const before = seen.get(decision.name)
      if (before) throw sourceError(`There are two decisions named “${decision.name}”, the first on line ${before.at.line}. Give one of them another name.`, decision.at)
      seen.set(decision.name, decision)
    }
    const order = dependencyOrder([...this.decisions.keys()], (id) => this.decisions.get(id)!.requires.map((required) => required.id))
    if ('loop' in order) {
      const loop = order.loop.map((id) => this.decisions.get(id)!)
      throw sourceError(`These decisions need each other, in a ring: ${loop.map(({ name }) => name).join(', ')}.`, loop[0]!.at)
    }
    for (const { id, name, type, at } of this.model.inputs) this.offered.set(id, this.inputMeanings(name, type, at))
    const gates: Gate[] = []
    return order.order.map((id) => {
      const decision = this.decisions.get(id)!
      const { gate, offers } = readDecision(decision, this.scopeOf(decision), this.model)
      this.offered.set(id, offers)
      gates.push(gate)
      const lowering = lower(gate, { conditions: [], gates })
      if ('problems' in lowering) throw sourceError(`The decision “${decision.name}” cannot be made: ${gateProblemWords(lowering.problems[0]!)}`, decision.at)
      return { gate, decision }
    })
  }

  /** A structure is its components, each an input of its own. */
  private inputMeanings(name: string, type: DmnType, at: Place): Map<string, Meaning> {
    const trouble = type.parts.length === 0 && nameTrouble(name)
    if (trouble) throw sourceError(`Expressions could not refer to “${name}”: ${NAME_TROUBLE_WORDS[trouble]}. Rename it.`, at)
    if (++this.parts > MOST_PARTS) throw sourceError(`The structures of this file have more than ${MOST_PARTS} components.`, { line: 1, column: 1 })
    if (type.parts.length > 0) return new Map(type.parts.flatMap((part) => [...this.inputMeanings(`${name}.${part.name}`, part.type, at)]))
    const expected = type.allowed && expectedOf(type.allowed, type.kind)
    const kind = type.kind ?? expected?.kind ?? null
    return new Map([[name, { kind: 'input', isKnown: kind !== null, input: inputOf(name, kind ?? 'text', type.isList, { kind: 'given' }, expected?.expected ?? null) }]])
  }

  private scopeOf({ name, requires }: DmnDecision): Map<string, Meaning> {
    const scope = new Map<string, Meaning>()
    for (const { id, at } of requires) {
      const offered = this.offered.get(id)
      if (!offered) throw sourceError(`“${name}” requires “${id}”, which is not in the file.`, at)
      for (const [one, meaning] of offered) scope.set(one, meaning)
    }
    return scope
  }
}
