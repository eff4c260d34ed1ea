import fc from 'fast-check'
import { SourceError } from '../source-problem'
import type { XmlElement } from './element'
import { readXml } from './read-xml'
import { NO_XML_CHARACTER, writeXml, type XmlNode, xmlNode } from './write-xml'

const placeOf = ({ line, column }: { line: number; column: number }) => [line, column]

describe('reading', () => {
  test('elements, attributes and texts, with the place of each', () => {
    const root = readXml('<a x="1">\n  <b>t</b>\n  <c:d xmlns:c="n"/>\n</a>')
    expect(root).toMatchObject({ name: 'a', namespace: '', attributes: { x: '1' } })
    expect(root.children.map(({ name, namespace, text }) => [name, namespace, text])).toEqual([['b', '', 't'], ['d', 'n', '']])
    expect(root.children.map(placeOf)).toEqual([[2, 3], [3, 3]])
    expect(placeOf(root.children[0]!.textAt)).toEqual([2, 6])
  })
  test('character data, comments, references to characters', () => {
    expect(readXml('<a><![CDATA[<&]]><!-- no -->&lt;&#x41;&#66;</a>').text).toBe('<&<AB')
  })
  test('the default namespace is that of the elements, not of their attributes', () => {
    expect(readXml('<a xmlns="n" x="1" xmlns:p="q" p:x="2"><b/></a>')).toMatchObject({ namespace: 'n', attributes: { x: '1' }, children: [{ namespace: 'n' }] })
  })
  test.each(['<a', '<a></b>', '<a b=1/>', '<a b="1" b="2"/>', '<a>&nbsp;</a>', '<p:a/>', '<a/><b/>', '<a>\u0000</a>', '&lt;', '<?xml version="3.0"?>x'])('%j is no XML', (text) => {
    expect(() => readXml(text)).toThrow(SourceError)
  })
  test('what is wrong has its line', () => {
    try {
      readXml('<a>\n\n<b></c></a>')
    } catch (error) {
      expect((error as SourceError).problem).toMatchObject({ line: 3, message: expect.stringContaining('well-formed') })
    }
    expect.assertions(1)
  })
})

test('what is written is read again', () => {
  const characters = fc.string({ unit: 'binary', maxLength: 20 }).map((text) => text.replace(NO_XML_CHARACTER, ''))
  const name = fc.constantFrom('a', 'b', 'long-name', 'ünï')
  const node: fc.Arbitrary<XmlNode> = fc.letrec<{ node: XmlNode }>((tie) => ({
    node: fc.tuple(name, fc.dictionary(name, fc.option(characters)), fc.oneof({ depthSize: 'small' }, characters, fc.array(tie('node'), { maxLength: 3 }))).map(([called, attributes, inside]) => xmlNode(called, attributes, inside)),
  })).node
  const same = ({ name: called, attributes, inside }: XmlNode, read: XmlElement): void => {
    expect(read.name).toBe(called)
    expect(read.attributes).toEqual(Object.fromEntries(Object.entries(attributes).filter(([, text]) => text !== null)))
    if (typeof inside === 'string') expect(read.text).toBe(inside)
    else {
      expect(read.children).toHaveLength(inside.length)
      inside.forEach((child, at) => same(child, read.children[at]!))
    }
  }
  fc.assert(fc.property(node, (written) => same(written, readXml(writeXml(written)))), { numRuns: 300 })
})
