import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { decideRecordByGates, readyGates } from '@dime-gate/core/bulk/decide-gates'
import { DECAY_SCALE } from '../testing/decay-scale'
import { OF_OTHERS, TRUSTING } from '../testing/shapes'
import { anInput, rulesGate, TODAY } from '@dime-gate/core/testing/a-gate'
import { Decimal } from '@dime-gate/core/value/number'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { Value } from '@dime-gate/core/value/value'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { SourceError } from '../source-problem'
import { readDmn, writeDmn } from './dmn'

const fixture = (name: string) => readFileSync(`interchange/dmn/testing/${name}.dmn`, 'utf8')
const number = (value: number | string) => new Decimal(value)

/** By decision: its status, and its outcomes as text. */
function decided(text: string, given: Record<string, Value>): Record<string, string[]> {
  const ready = readyGates(readDmn(text, OF_OTHERS))
  if ('problems' in ready) throw new Error(JSON.stringify([...ready.problems]))
  const decisions = decideRecordByGates(ready.ready, (_, input) => given[input] ?? null, TODAY)
  return Object.fromEntries([...decisions].map(([name, { status, outcomes }]) => [name, [status, ...outcomes.map(textOfValue)]]))
}

function problemOf(text: string): { message: string; line: number } {
  try {
    readDmn(text, OF_OTHERS)
  } catch (error) {
    if (error instanceof SourceError) return { message: error.problem.message, line: error.problem.line }
    throw error
  }
  throw new Error('nothing was refused')
}

describe('a graph of decisions, worked out by hand', () => {
  const tree = (height: number, girth: number, decay: number | null, place: string, last: string | null) => decided(fixture('tree-inspection'), {
    'Tree.Height': number(height), 'Tree.Trunk girth': number(girth), 'Stem decay': decay === null ? null : number(decay), 'Stands by': place, 'Last inspected': last === null ? null : parseDate(last),
  })

  test('a slender, decayed tree by a school', () => {
    // 20 × 100 ÷ (62.8 ÷ 3.14) = 100; decay 12 lies in [12..40) and 100 is above 80: failing; the school comes before the month.
    expect(tree(20, 62.8, 12, 'school', '2026-01-01')).toEqual({
      Slenderness: ['labelled', '100'], 'Stem state': ['labelled', 'failing'], 'Next visit': ['labelled', 'this week', '4'], Letter: ['labelled', 'Come this week, 4 times'],
    })
  })
  test('at exactly 80 it is not slender', () => {
    // 16 × 100 ÷ 20 = 80.
    expect(tree(16, 62.8, 39.9, 'play area', '2026-01-01')).toMatchObject({ Slenderness: ['labelled', '80'], 'Stem state': ['labelled', 'weak'], 'Next visit': ['labelled', 'this week', '3'] })
  })
  test('nothing is the matter, but it was long ago', () => {
    // From 2025-03-01 to 2026-03-02 are 366 days.
    expect(tree(10, 62.8, 5, 'verge', '2025-03-01')).toMatchObject({ 'Stem state': ['otherwise', 'sound'], 'Next visit': ['labelled', 'this month', '1'] })
    expect(tree(10, 62.8, 5, 'verge', '2025-03-02')).toMatchObject({ 'Next visit': ['otherwise', 'this season', '1'] })
  })
  test('blanks pass, as the standard has it: an unknown test is not true', () => {
    expect(tree(10, 62.8, null, 'school', null)).toMatchObject({ 'Stem state': ['otherwise', 'sound'], 'Next visit': ['otherwise', 'this season', '1'] })
  })
  test('what a gate looks at is what the file says: types, allowed values, notes', () => {
    const { gates } = readDmn(fixture('tree-inspection'), OF_OTHERS)
    const stem = gates.find(({ name }) => name === 'Stem state')!
    expect(stem.inputs.map(({ name, type, source, expected, blank }) => ({ name, type, source: source.kind, expected, blank }))).toEqual([
      { name: 'Slenderness', type: 'number', source: 'gate', expected: null, blank: 'pass' },
      { name: 'Stem decay', type: 'number', source: 'given', expected: { kind: 'range', low: { at: '0', included: true }, high: { at: '100', included: true } }, blank: 'pass' },
    ])
    expect(stem.form === 'rules' && stem.rules.map(({ condition, note }) => [condition, note])).toEqual([['Stem decay >= 40', 'hollow'], ['Slenderness > 80 and Stem decay in [12..40)', 'slender and decayed'], ['Slenderness <= 80 and Stem decay in [12..40)', '']])
    const next = gates.find(({ name }) => name === 'Next visit')!
    expect(next.outcomes[0]!.labels.map(({ value }) => value)).toEqual(['this week', 'this month', 'this season'])
  })
})

test('every hit policy, on one value for each way that rules can meet', () => {
  const at = (marks: number) => Object.fromEntries(Object.entries(decided(fixture('every-policy'), { Marks: number(marks) })).map(([name, [status, outcome]]) => [name, status === 'contested' || status === 'unplaced' ? status : outcome]))
  // 85 meets all three rules, which give 1, 3 and 2.
  expect(at(85)).toEqual({ Alone: 'contested', 'First one': '1', 'Any one': 'contested', Highest: '3', 'In rule order': '[1, 3, 2]', 'In output order': '[3, 2, 1]', All: '[1, 3, 2]', Total: '6', Least: '1', Most: '3', 'How many': '3', 'Sum of all': '63' })
  expect(at(95)).toMatchObject({ Alone: 'contested', 'First one': '1', Highest: '3', 'In rule order': '[1, 3]', 'In output order': '[3, 1]', Total: '4', Most: '3', 'How many': '2', 'Sum of all': '42' })
  expect(at(55)).toEqual({ Alone: '1', 'First one': '1', 'Any one': '1', Highest: '1', 'In rule order': '[1]', 'In output order': '[1]', All: '[1]', Total: '1', Least: '1', Most: '1', 'How many': '1', 'Sum of all': '11' })
  expect(at(49)).toMatchObject({ Alone: 'unplaced', All: 'unplaced', Total: 'unplaced', 'How many': 'unplaced', 'Sum of all': '' })
})

/** A file of one decision table. */
function table({ namespace = 'https://www.omg.org/spec/DMN/20230324/MODEL/', prefix = '', input = 'Decay', type = 'number', test = '&gt; 3', entry = '"a"', more = '', inTable = '', policy = 'UNIQUE', definitions = '' } = {}): string {
  return `<definitions xmlns="${namespace}" xmlns:feel="x" name="n" namespace="y">
${definitions}
<inputData id="i" name="Decay"><variable name="Decay" typeRef="${prefix}${type}"/></inputData>
<decision id="d" name="Band">
${more}
<variable name="Band" typeRef="${prefix}string"/>
<informationRequirement><requiredInput href="#i"/></informationRequirement>
<decisionTable hitPolicy="${policy}">
<input><inputExpression><text>${input}</text></inputExpression></input>
<output/>${inTable}
<rule><inputEntry><text>${test}</text></inputEntry><outputEntry><text>${entry}</text></outputEntry></rule>
</decisionTable>
</decision>
</definitions>`
}

describe('all namespaces from 1.1 on', () => {
  test.each([
    ['http://www.omg.org/spec/DMN/20151101/dmn.xsd', 'feel:'], ['http://www.omg.org/spec/DMN/20180521/MODEL/', ''], ['https://www.omg.org/spec/DMN/20191111/MODEL/', ''],
    ['https://www.omg.org/spec/DMN/20211108/MODEL/', ''], ['https://www.omg.org/spec/DMN/20230324/MODEL/', ''],
  ])('%s', (namespace, prefix) => expect(decided(table({ namespace, prefix }), { Decay: number(4) })).toEqual({ Band: ['labelled', 'a'] }))
})

test('what other programs put beside it in namespaces of their own changes nothing', () => {
  const text = table({ more: '<extensionElements><v:x xmlns:v="vendor"><v:y/></v:x></extensionElements>' })
    .replace('<definitions ', '<definitions xmlns:v="vendor" v:name="other" v:expressionLanguage="basic" ').replace('<decision ', '<decision v:id="e" v:name="Other" ').replace('<rule>', '<rule v:hitPolicy="ANY" id="r"><description>a note</description>')
  expect(decided(text, { Decay: number(4) })).toEqual({ Band: ['labelled', 'a'] })
  const [gate] = readDmn(text, OF_OTHERS).gates
  expect(gate!.form === 'rules' && gate!.rules[0]!.note).toBe('a note')
})

test('an empty output entry gives nothing; a reference may name the namespace of its own file', () => {
  expect(decided(table({ entry: '', inTable: '' }).replace('href="#i"', 'href="y#i"'), { Decay: number(4) })).toEqual({ Band: ['labelled', ''] })
})

describe('what is not supported, or not right, is refused by its name and line', () => {
  test.each([
    ['another namespace', table({ namespace: 'https://example.org/other' }), /“https:\/\/example.org\/other” is none of DMN's/, 1],
    ['a function', table({ definitions: '<businessKnowledgeModel id="b" name="Rate"/>' }), /<businessKnowledgeModel> in <definitions>/, 2],
    ['an import', table({ definitions: '<import namespace="z"/>' }), /<import>/, 2],
    ['two kinds of logic', table({ more: '<literalExpression><text>1</text></literalExpression>' }), /both a decision table and an expression/, 5],
    ['a boxed context', table({ more: '<context/>' }), /<context> in <decision> “Band”/, 5],
    ['a hit policy', table({ policy: 'SOMETIMES' }), /“SOMETIMES” is none of DMN's/, 8],
    ['an unknown name', table({ input: 'Decai' }), /Nothing is named “Decai” here. Did you mean “Decay”/, 9],
    ['a clash of types', table({ test: '&gt; "oak"' }), /do not go together/, 11],
    ['a test that cannot be read', table({ test: '&gt;' }), /“>”: Something is missing/, 11],
    ['an unknown type', table({ type: 'numbr' }), /“numbr” is not defined.*Did you mean “number”/, 3],
    ['an entry too many', table({ inTable: '<output name="b"/>' }), /no name/, 10],
    ['the order of output values, without any', table({ policy: 'PRIORITY' }), /goes by the order of the output values/, 8],
    ['another language', table().replace('<literal', '<x').replace('<text>Decay</text>', '<text>Decay</text>').replace('<inputExpression>', '<inputExpression expressionLanguage="javascript">'), /“javascript”/, 9],
    ['allowed values that are neither list nor range', table({ type: 't', definitions: '<itemDefinition name="t"><typeRef>number</typeRef><allowedValues><text>? > 3</text></allowedValues></itemDefinition>'.replace('> 3', '&gt; 3') }), /Allowed values/, 2],
    ['something else among them', table({ inTable: '<x xmlns="z"/>' }), /<x> of “z” is not part of DMN/, 10],
    ['a required decision that is not there', table().replace('href="#i"', 'href="#gone"'), /requires “gone”/, 7],
    ['a name that is in the file, but not required', table({ definitions: '<inputData id="l" name="Lean"/>', input: 'Lean' }), /“Lean” is in the file, but this decision does not require it/, 9],
    ['a file of another kind', '<html/>', /begins with <html>/, 1],
  ])('%s', (_, text, message, line) => {
    expect(problemOf(text)).toEqual({ message: expect.stringMatching(message), line })
  })

  test('a ring of decisions', () => {
    const decision = (id: string, name: string, needs: string) => `<decision id="${id}" name="${name}"><informationRequirement><requiredDecision href="#${needs}"/></informationRequirement><literalExpression><text>1</text></literalExpression></decision>`
    expect(problemOf(`<definitions xmlns="https://www.omg.org/spec/DMN/20230324/MODEL/" name="n" namespace="y">\n${decision('a', 'Egg', 'b')}\n${decision('b', 'Hen', 'a')}</definitions>`).message).toMatch(/in a ring: Egg, Hen|in a ring: Hen, Egg/)
  })
})

describe('a file that was written here', () => {
  const written = writeDmn({ conditions: [], gates: [DECAY_SCALE] })

  test('and changed elsewhere is read as it stands now, with the looks that it had', () => {
    const changed = written.replace('[12..25)', '[13..25)').replace('[0..12)', '[0..13)')
    const { gates: [gate] } = readDmn(changed, TRUSTING)
    expect(gate).toMatchObject({ form: 'rules', rules: [{ condition: 'Decay in [0..13)' }, { condition: 'Decay in [13..25)' }, {}, {}] })
    expect(gate!.outcomes[0]!.labels).toEqual(DECAY_SCALE.outcomes[0]!.labels)
  })

  test('is told from one whose document is no gate', () => {
    expect(readDmn(written, OF_OTHERS).gates[0]).toMatchObject({ form: 'rules', hitPolicy: 'unique' })
    expect(readDmn(written.replace('"schema":1', '"schema":1,,'), TRUSTING).gates[0]).toMatchObject({ form: 'rules' })
  })

  test('may hold several gates that feed each other, named conditions, and whatever signs names and labels have', () => {
    const feeding = rulesGate([anInput('Decay', 'number')], [['rotten or Decay > 90', 'a "b" <c> & \u0001\n\t \ud800 d'], ['-', 'fine']], { name: 'Decay (band) <1>' })
    const fed = rulesGate([{ ...anInput('Band', 'text'), source: { kind: 'gate', gate: feeding.name, outcome: null } }], [['Band = "fine"', 'keep']], { name: 'Felling' })
    const library = { conditions: [{ name: 'rotten', feel: 'Decay > 40' }], gates: [feeding, fed] }
    const text = writeDmn(library)
    expect(readDmn(text, TRUSTING)).toEqual(library)
    expect(decided(text, { Decay: number(41) })).toEqual({ [feeding.name]: ['labelled', feeding.rules[0]!.entries.map((entry) => (entry && 'is' in entry ? entry.is : ''))[0]!], Felling: ['unplaced'] })
    expect(decided(text, { Decay: number(40) })).toEqual({ [feeding.name]: ['labelled', 'fine'], Felling: ['labelled', 'keep'] })
  })
})

describe('XML is read safely', () => {
  const bomb = `<!DOCTYPE l [<!ENTITY a "aaaaaaaaaa">${Array.from({ length: 9 }, (_, at) => `<!ENTITY ${'bcdefghij'[at]} "${`&${'abcdefghi'[at]};`.repeat(10)}">`).join('')}]><definitions>&j;</definitions>`
  test.each([
    ['entities that grow', bomb, /document type declaration/],
    ['entities from outside', '<!DOCTYPE d [<!ENTITY x SYSTEM "file:///etc/passwd">]><definitions>&x;</definitions>', /document type declaration/],
    ['entities that nobody declared', '<definitions>&x;</definitions>', /well-formed/],
    ['elements without end', '<a>'.repeat(100_000), /nested more than 100 deep/],
    ['elements that do not close', '<definitions>\n<a></b></definitions>', /well-formed/],
    ['no element', '   ', /well-formed|no XML element/],
    ['something before it', 'x<definitions/>', /well-formed/],
  ])('%s', (_, text, message) => expect(problemOf(text).message).toMatch(message))

  test('item definitions that are each ten of the next are refused, and soon', () => {
    const items = Array.from({ length: 30 }, (_, at) => `<itemDefinition name="t${at}">${Array.from({ length: 10 }, (_, part) => `<itemComponent name="p${part}"><typeRef>t${at + 1}</typeRef></itemComponent>`).join('')}</itemDefinition>`).join('') + '<itemDefinition name="t30"><typeRef>number</typeRef></itemDefinition>'
    expect(problemOf(table({ type: 't0', definitions: items })).message).toMatch(/more than 2000 components/)
  })

  test('an item definition that is part of itself', () => {
    expect(problemOf(table({ definitions: '<itemDefinition name="t"><typeRef>u</typeRef></itemDefinition><itemDefinition name="u"><typeRef>t</typeRef></itemDefinition>' })).message).toMatch(/part of itself/)
  })

  const good = [fixture('tree-inspection'), fixture('every-policy'), writeDmn({ conditions: [], gates: [DECAY_SCALE] })]
  const pieces = fc.oneof(fc.constantFrom('', '<', '>', '&', '&lt;', '"', '</decision>', '<rule>', '<!--', ']]>', '<![CDATA[', '<?x?>', '\0', '\ufffe', '-', 'null', 'typeRef=""', 'Marks', '<text>', 'FIRST', 'hitPolicy', '#d1', '[1..', 'number', '@"P1D"'), fc.string({ maxLength: 8, unit: 'binary' }))
  test('spoiled files give an error with a place, or gates', () => {
    fc.assert(fc.property(fc.constantFrom(...good), fc.array(fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.nat(30), pieces), { minLength: 1, maxLength: 3 }), (text, changes) => {
      const spoiled = changes.reduce((now, [where, cut, put]) => now.slice(0, Math.floor(where * now.length)) + put + now.slice(Math.floor(where * now.length) + cut), text)
      try {
        expect(readDmn(spoiled, OF_OTHERS).gates).toBeDefined()
      } catch (error) {
        if (!(error instanceof SourceError)) throw error
        expect(error.problem.message).not.toBe('')
        expect(error.problem.line).toBeGreaterThanOrEqual(1)
        expect(error.problem.line).toBeLessThanOrEqual(spoiled.split('\n').length + 1)
      }
    }), { numRuns: 600 })
  })

  test('texts that are no XML at all', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary', maxLength: 200 }), (text) => {
      expect(problemOf(text).message).not.toBe('')
    }), { numRuns: 500 })
  })
})
