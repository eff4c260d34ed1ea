/**
 * XML 1.0 (with namespaces) to plain data, safely: a document type declaration is refused, so that there are no
 * entities but XML's own five and character numbers, and nothing outside the text is ever looked at.
 */
import { SaxesParser } from 'saxes'
import { sourceError } from '../source-problem'
import type { XmlElement } from './element'

/** In UTF-16 units; some hundred thousand rules. */
const LONGEST_XML = 50_000_000
const DEEPEST = 100

/** @throws SourceError where the text is no XML, or more of it than is read */
export function readXml(text: string): XmlElement {
  if (text.length > LONGEST_XML) throw sourceError(`The file has ${text.length} characters; at most ${LONGEST_XML} are read. Split it into several files.`, { line: 1, column: 1 })
  const parser = new SaxesParser({ xmlns: true })
  const open: XmlElement[] = []
  let root: XmlElement | null = null
  let start = { line: 1, column: 1 }
  const here = () => ({ line: parser.line, column: parser.column + 1 })
  const add = (piece: string) => {
    const element = open.at(-1)
    if (element) element.text += piece
  }
  parser.on('error', (error) => {
    throw sourceError(`This is not well-formed XML: ${error.message.replace(/^\d+:\d+: /, '')}`, here())
  })
  parser.on('doctype', () => {
    throw sourceError('A document type declaration (<!DOCTYPE …>) is not read, nor are the entities that it declares. Take it out of the file.', here())
  })
  parser.on('opentagstart', ({ name }) => {
    start = { line: parser.line, column: Math.max(1, parser.column - name.length - 1) }
  })
  parser.on('opentag', ({ local, uri, attributes }) => {
    if (open.length >= DEEPEST) throw sourceError(`Elements are nested more than ${DEEPEST} deep here; nothing that is meant is.`, here())
    const element: XmlElement = {
      name: local, namespace: uri, attributes: Object.fromEntries(Object.values(attributes).flatMap((attribute) => (attribute.uri === '' ? [[attribute.local, attribute.value]] : []))),
      children: [], text: '', ...start, textAt: here(),
    }
    open.at(-1)?.children.push(element)
    root ??= element
    open.push(element)
  })
  parser.on('closetag', () => void open.pop())
  parser.on('text', add)
  parser.on('cdata', add)
  parser.write(text).close()
  if (!root) throw sourceError('The file holds no XML element.', { line: 1, column: 1 })
  return root
}
