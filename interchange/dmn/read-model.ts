/** DMN XML to what it says. What is not supported is refused by its name and line; nothing that decides is passed over. */
import { nearestName } from '@dime-gate/core/expression/names'
import type { HitPolicy } from '@dime-gate/core/gate/document'
import type { ValueKind } from '@dime-gate/core/value/value'
import { type Place, sourceError } from '../source-problem'
import type { XmlElement } from '../xml/element'
import { readXml } from '../xml/read-xml'
import { ANY_TYPE, type DmnDecision, type DmnInput, type DmnLiteral, type DmnModel, type DmnOutput, type DmnRule, type DmnTable, type DmnType, type Feel } from './model'
import { DIME_GATE, DMN_NAMESPACES, FEEL_NAMESPACES } from './namespaces'

/** Elements that document a model and decide nothing (DMN 1.5 clauses 6.3.3 to 6.3.15 and 13). */
const DOCUMENTATION = [
  'description', 'extensionElements', 'knowledgeSource', 'performanceIndicator', 'organizationUnit', 'elementCollection', 'businessContextElement',
  'textAnnotation', 'association', 'group', 'DMNDI', 'question', 'allowedAnswers', 'authorityRequirement', 'supportedObjective', 'impactedPerformanceIndicator',
  'decisionMaker', 'decisionOwner', 'usingProcess', 'usingTask', 'context',
]
/** Some of these names mean logic inside a decision. */
const IN_DECISION = DOCUMENTATION.filter((name) => name !== 'context')

/** @throws SourceError at the first thing that cannot be read */
export function readModel(text: string): DmnModel {
  const root = readXml(text)
  if (root.name !== 'definitions') throw sourceError(`The file begins with <${root.name}>, not with DMN's <definitions>.`, root)
  if (!DMN_NAMESPACES[root.namespace]) {
    throw sourceError(`The namespace “${root.namespace}” is none of DMN's. Versions ${Object.values(DMN_NAMESPACES).join(', ')} are read.`, root)
  }
  return new Reader(root).model()
}

class Reader {
  private readonly items: ReadonlyMap<string, XmlElement>
  private readonly types = new Map<string, DmnType>()

  constructor(private readonly root: XmlElement) {
    this.items = new Map(this.all(root, 'itemDefinition').map((item) => [needed(item, 'name'), item]))
  }

  model(): DmnModel {
    const { root } = this
    this.language(root)
    this.only(root, ['itemDefinition', 'inputData', 'decision', ...DOCUMENTATION.filter((name) => name !== 'context')])
    for (const [name, item] of this.items) this.typeNamed(name, item, new Set())
    const inputs = this.all(root, 'inputData').map((element) => this.input(element))
    const decisions = this.all(root, 'decision').map((element) => this.decision(element))
    const byId = new Map<string, Place>()
    const byName = new Map<string, Place>()
    for (const { id, name, at } of [...inputs, ...decisions.map(({ id, variable, at }) => ({ id, name: variable, at }))]) {
      for (const [seen, key, what] of [[byId, id, 'id'], [byName, name, 'name']] as const) {
        const before = seen.get(key)
        if (before) throw sourceError(`The ${what} “${key}” is given twice, first on line ${before.line}. Give one of them another.`, at)
        seen.set(key, at)
      }
    }
    return { name: root.attributes.name ?? '', inputs, decisions, conditions: this.extension(root, 'conditions') }
  }

  /** The children of this name that are DMN's own. */
  private all(of: XmlElement, name: string): XmlElement[] {
    return of.children.filter((child) => child.name === name && this.isOurs(child))
  }

  private one(of: XmlElement, name: string): XmlElement | null {
    const [found, second] = this.all(of, name)
    if (second) throw sourceError(`<${of.name}> has a second <${name}>; it can have one.`, second)
    return found ?? null
  }

  /** Diagrams have namespaces of their own; all else must be in the file's. */
  private isOurs(element: XmlElement): boolean {
    return element.namespace === this.root.namespace || element.name === 'DMNDI'
  }

  private only(element: XmlElement, names: readonly string[]): void {
    for (const child of element.children) {
      if (!this.isOurs(child)) throw sourceError(`<${child.name}> of “${child.namespace || 'no namespace'}” is not part of DMN; such elements belong in <extensionElements>.`, child)
      if (!names.includes(child.name)) throw sourceError(`<${child.name}> in <${element.name}>${named(element)} is not supported.`, child)
    }
  }

  private language(element: XmlElement): void {
    for (const key of ['expressionLanguage', 'typeLanguage']) {
      const language = element.attributes[key]
      if (language && !FEEL_NAMESPACES.includes(language) && language.toLowerCase() !== 'feel') {
        throw sourceError(`The language “${language}” of <${element.name}> is not supported; only FEEL is.`, element)
      }
    }
  }

  /** The text of what is there for this product inside the element's extensions. */
  private extension(of: XmlElement, name: string): string | null {
    const found = this.one(of, 'extensionElements')?.children.find((child) => child.namespace === DIME_GATE && child.name === name)
    return found ? found.text : null
  }

  private feel(of: XmlElement): Feel {
    this.language(of)
    const text = this.one(of, 'text')
    if (!text) throw sourceError(`<${of.name}> has no <text>.`, of)
    return { text: text.text.trim(), at: startOf(text) }
  }

  private optionalFeel(of: XmlElement, name: string): Feel | null {
    const element = this.one(of, name)
    return element ? this.feel(element) : null
  }

  private input(element: XmlElement): DmnInput {
    this.only(element, ['variable', ...DOCUMENTATION])
    const variable = this.one(element, 'variable')
    const name = cleanName(variable?.attributes.name ?? needed(element, 'name'))
    return { id: element.attributes.id ?? name, name, type: variable ? this.typeOf(variable) : ANY_TYPE, at: placeOf(element) }
  }

  private decision(element: XmlElement): DmnDecision {
    const name = needed(element, 'name')
    this.only(element, ['variable', 'informationRequirement', 'decisionTable', 'literalExpression', ...IN_DECISION])
    const variable = this.one(element, 'variable')
    const [table, literal] = [this.one(element, 'decisionTable'), this.one(element, 'literalExpression')]
    if (table && literal) throw sourceError(`The decision “${name}” has both a decision table and an expression.`, literal)
    if (!table && !literal) throw sourceError(`The decision “${name}” says nothing of how it is made: it has neither a decision table nor an expression.`, element)
    const requires = this.all(element, 'informationRequirement').map((requirement) => {
      this.only(requirement, ['requiredInput', 'requiredDecision', ...DOCUMENTATION])
      const required = this.one(requirement, 'requiredInput') ?? this.one(requirement, 'requiredDecision')
      // A reference may name the file's own namespace before the id.
      const href = required && needed(required, 'href').replace(`${this.root.attributes.namespace ?? ''}#`, '#')
      if (!href?.startsWith('#')) throw sourceError(`A requirement of “${name}” points to “${href ?? ''}”; only what is in the same file, as in “#id”, is supported.`, requirement)
      return { id: href.slice(1), at: placeOf(requirement) }
    })
    const expression = table ?? literal!
    const own = variable?.attributes.typeRef ? this.typeOf(variable) : this.typeOf(expression)
    return {
      id: element.attributes.id ?? name, name, variable: cleanName(variable?.attributes.name ?? name), type: own, requires,
      logic: table ? this.table(table, name) : this.literal(literal!), document: this.extension(element, 'gate'), at: placeOf(element),
    }
  }

  private literal(element: XmlElement): DmnLiteral {
    this.only(element, ['text', ...DOCUMENTATION])
    return { kind: 'literal', expression: this.feel(element) }
  }

  private table(element: XmlElement, decision: string): DmnTable {
    this.only(element, ['input', 'output', 'rule', 'annotation', ...DOCUMENTATION])
    const inputs = this.all(element, 'input').map((input) => {
      this.only(input, ['inputExpression', 'inputValues', ...DOCUMENTATION])
      const expression = this.one(input, 'inputExpression')
      if (!expression) throw sourceError(`An input of the decision table “${decision}” has no <inputExpression>.`, input)
      return { expression: this.feel(expression), type: this.typeOf(expression), values: this.optionalFeel(input, 'inputValues') }
    })
    const outputs = this.all(element, 'output').map((output): DmnOutput => {
      this.only(output, ['outputValues', 'defaultOutputEntry', ...DOCUMENTATION])
      return {
        name: output.attributes.name ?? null, type: this.typeOf(output), values: this.optionalFeel(output, 'outputValues'),
        otherwise: this.optionalFeel(output, 'defaultOutputEntry'), at: placeOf(output),
      }
    })
    if (outputs.length === 0) throw sourceError(`The decision table “${decision}” has no output.`, element)
    const nameless = outputs.length > 1 && this.all(element, 'output').find((output) => !output.attributes.name)
    if (nameless) throw sourceError(`An output of the decision table “${decision}” has no name; where there are several, each needs one.`, nameless)
    const rules = this.all(element, 'rule').map((rule, at): DmnRule => {
      this.only(rule, ['inputEntry', 'outputEntry', 'annotationEntry', ...DOCUMENTATION])
      const tests = this.all(rule, 'inputEntry').map((entry) => this.feel(entry))
      const entries = this.all(rule, 'outputEntry').map((entry) => this.feel(entry))
      if (tests.length !== inputs.length) throw sourceError(`Rule ${at + 1} of “${decision}” has ${tests.length} input entries where the table has ${inputs.length} inputs.`, rule)
      if (entries.length !== outputs.length) throw sourceError(`Rule ${at + 1} of “${decision}” has ${entries.length} output entries where the table has ${outputs.length} outputs.`, rule)
      const notes = [...this.all(rule, 'annotationEntry').map((entry) => this.one(entry, 'text')?.text ?? entry.text), this.one(rule, 'description')?.text ?? '']
      return { tests, entries, note: notes.map((note) => note.trim()).filter((note) => note !== '').join(' · '), at: placeOf(rule) }
    })
    return { kind: 'table', hitPolicy: hitPolicyOf(element), inputs, outputs, rules, at: placeOf(element) }
  }

  private typeOf(element: XmlElement): DmnType {
    const name = element.attributes.typeRef
    return name ? this.typeNamed(name, element, new Set()) : ANY_TYPE
  }

  /** @param inside the item definitions that are being looked at, this one's among them */
  private typeNamed(written: string, at: Place, inside: ReadonlySet<string>): DmnType {
    // Versions before 1.2 name types with a prefix, as in `feel:number`.
    const name = this.items.has(written) ? written : written.replace(/^[^:]*:/, '').trim()
    const item = this.items.get(name)
    if (item) {
      if (inside.has(name)) throw sourceError(`The item definition “${name}” is part of itself.`, item)
      const known = this.types.get(name) ?? this.itemType(item, new Set([...inside, name]))
      this.types.set(name, known)
      return known
    }
    if (name === 'Any' || name === '') return ANY_TYPE
    const kind = KINDS[name]
    if (kind) return { ...ANY_TYPE, kind }
    const nearest = nearestName(name, [...this.items.keys(), ...Object.keys(KINDS)])
    throw sourceError(`The type “${name}” is not defined in the file, nor is it one of FEEL's that are supported.${nearest ? ` Did you mean “${nearest}”?` : ''}`, at)
  }

  private itemType(item: XmlElement, inside: ReadonlySet<string>): DmnType {
    const name = needed(item, 'name')
    this.language(item)
    this.only(item, ['typeRef', 'allowedValues', 'typeConstraint', 'itemComponent', ...DOCUMENTATION])
    const reference = this.one(item, 'typeRef')
    const base = reference ? this.typeNamed(reference.text.trim(), reference, inside) : ANY_TYPE
    const parts = this.all(item, 'itemComponent').map((part) => ({ name: needed(part, 'name'), type: this.itemType(part, inside) }))
    const isCollection = item.attributes.isCollection === 'true'
    if (isCollection && (base.isList || parts.length > 0)) throw sourceError(`“${name}” is a list of ${base.isList ? 'lists' : 'structures'}, which is not supported.`, item)
    const allowed = this.optionalFeel(item, 'allowedValues') ?? this.optionalFeel(item, 'typeConstraint')
    return { kind: base.kind, isList: base.isList || isCollection, allowed: allowed ?? base.allowed, parts: [...base.parts, ...parts] }
  }
}

/** DMN 1.5 clause 7.3.3 and table 45, and how versions before 1.2 wrote them. */
const KINDS: Partial<Record<string, ValueKind>> = {
  string: 'text', number: 'number', boolean: 'boolean', date: 'date', time: 'time', 'date and time': 'date and time', dateTime: 'date and time',
  'days and time duration': 'days and time duration', dayTimeDuration: 'days and time duration',
  'years and months duration': 'years and months duration', yearMonthDuration: 'years and months duration',
}

/** DMN 1.5 clause 8.2.9. */
function hitPolicyOf(table: XmlElement): HitPolicy {
  const policy = (table.attributes.hitPolicy ?? 'UNIQUE').toLowerCase()
  const { aggregation } = table.attributes
  if (policy === 'collect') {
    if (!aggregation) return 'collect'
    if (['SUM', 'MIN', 'MAX', 'COUNT'].includes(aggregation)) return `collect ${aggregation.toLowerCase()}` as HitPolicy
    throw sourceError(`The aggregation “${aggregation}” is none of SUM, COUNT, MIN and MAX.`, table)
  }
  if (!['unique', 'first', 'priority', 'any', 'rule order', 'output order'].includes(policy)) {
    throw sourceError(`The hit policy “${table.attributes.hitPolicy}” is none of DMN's.`, table)
  }
  return policy as HitPolicy
}

function needed(element: XmlElement, attribute: string): string {
  const value = element.attributes[attribute]?.trim()
  if (!value) throw sourceError(`<${element.name}> has no ${attribute}.`, element)
  return value
}

/** Runs of white space in a name count as one blank (DMN 1.5 clause 10.3.1.4). */
function cleanName(name: string): string {
  return name.trim().replace(/\s+/g, ' ')
}

function named(element: XmlElement): string {
  return element.attributes.name ? ` “${element.attributes.name}”` : ''
}

function placeOf({ line, column }: Place): Place {
  return { line, column }
}

/** Where the text begins that is left when white space is taken off. */
function startOf({ text, textAt }: XmlElement): Place {
  const lead = /^\s*/.exec(text)![0]
  const breaks = lead.split('\n')
  return breaks.length === 1 ? { line: textAt.line, column: textAt.column + lead.length } : { line: textAt.line + breaks.length - 1, column: breaks.at(-1)!.length + 1 }
}
