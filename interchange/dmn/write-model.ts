/** A DMN model as DMN 1.5 XML. */
import type { HitPolicy } from '@dime-gate/core/gate/document'
import type { ValueKind } from '@dime-gate/core/value/value'
import { writeXml, type XmlNode, xmlNode } from '../xml/write-xml'
import type { DmnDecision, DmnInput, DmnModel, DmnTable, DmnType, Feel } from './model'
import { DIME_GATE, DMN_1_5 } from './namespaces'

const TYPE_NAMES: Record<ValueKind, string> = {
  text: 'string', number: 'number', boolean: 'boolean', date: 'date', time: 'time', 'date and time': 'date and time',
  'days and time duration': 'days and time duration', 'years and months duration': 'years and months duration',
}

export function writeModel(model: DmnModel): string {
  return writeXml(xmlNode('definitions', { xmlns: DMN_1_5, 'xmlns:gate': DIME_GATE, id: 'definitions', name: model.name, namespace: DIME_GATE }, [
    ...extension('conditions', model.conditions),
    ...model.inputs.filter(needsItem).map(itemDefinition),
    ...model.inputs.map((input) => xmlNode('inputData', { id: input.id, name: input.name }, [variable(input.name, needsItem(input) ? itemName(input) : typeName(input.type))])),
    ...model.decisions.map(decision),
  ]))
}

function extension(name: string, text: string | null): XmlNode[] {
  return text === null ? [] : [xmlNode('extensionElements', {}, [xmlNode(`gate:${name}`, {}, text)])]
}

function typeName({ kind }: DmnType): string | null {
  return kind && TYPE_NAMES[kind]
}

function variable(name: string, typeRef: string | null): XmlNode {
  return xmlNode('variable', { name, typeRef })
}

/** Lists, and values that are not all allowed, need a type of their own. */
function needsItem({ type }: DmnInput): boolean {
  return type.isList || type.allowed !== null
}

function itemName({ id }: DmnInput): string {
  return `type_of_${id}`
}

function itemDefinition(input: DmnInput): XmlNode {
  const { type } = input
  return xmlNode('itemDefinition', { name: itemName(input), isCollection: type.isList ? 'true' : null }, [
    xmlNode('typeRef', {}, typeName(type) ?? 'Any'), ...(type.allowed ? [texted('allowedValues', type.allowed)] : []),
  ])
}

function texted(name: string, { text }: Feel, attributes: XmlNode['attributes'] = {}): XmlNode {
  return xmlNode(name, attributes, [xmlNode('text', {}, text)])
}

function decision({ id, name, variable: result, type, requires, logic, document }: DmnDecision): XmlNode {
  return xmlNode('decision', { id, name }, [
    ...extension('gate', document),
    variable(result, typeName(type)),
    ...requires.map((required) => xmlNode('informationRequirement', {}, [xmlNode(required.id.startsWith('decision') ? 'requiredDecision' : 'requiredInput', { href: `#${required.id}` })])),
    logic.kind === 'literal' ? texted('literalExpression', logic.expression, { typeRef: typeName(type) }) : table(logic),
  ])
}

function table({ hitPolicy, inputs, outputs, rules }: DmnTable): XmlNode {
  const hasNotes = rules.some(({ note }) => note !== '')
  return xmlNode('decisionTable', policy(hitPolicy), [
    ...inputs.map(({ expression, type }) => xmlNode('input', {}, [texted('inputExpression', expression, { typeRef: typeName(type) })])),
    ...outputs.map(({ name, type, values, otherwise }) => xmlNode('output', { name, typeRef: typeName(type) }, [
      ...(values ? [texted('outputValues', values)] : []), ...(otherwise ? [texted('defaultOutputEntry', otherwise)] : []),
    ])),
    ...(hasNotes ? [xmlNode('annotation', { name: 'Note' })] : []),
    ...rules.map(({ tests, entries, note }) => xmlNode('rule', {}, [
      ...tests.map((test) => texted('inputEntry', test)), ...entries.map((entry) => texted('outputEntry', entry)),
      ...(hasNotes ? [texted('annotationEntry', { text: note, at: { line: 1, column: 1 } })] : []),
    ])),
  ])
}

function policy(hitPolicy: HitPolicy): XmlNode['attributes'] {
  const [first, aggregation] = hitPolicy.startsWith('collect') ? hitPolicy.split(' ') : [hitPolicy]
  return { hitPolicy: first!.toUpperCase(), aggregation: aggregation?.toUpperCase() ?? null }
}
