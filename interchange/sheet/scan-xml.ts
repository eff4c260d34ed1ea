/**
 * XML read while it comes, element by element, for files that are too large to be held. As everywhere, a document type
 * declaration is refused: there are no entities but XML's own five and character numbers.
 */
import { SaxesParser } from 'saxes'
import { fileError } from '../table/problem'

export interface XmlEvents {
  /** @param name without its prefix. @param attributes by name, prefixes left on */
  open?(name: string, attributes: Readonly<Record<string, string>>): void
  close?(name: string): void
  text?(text: string): void
}

const DEEPEST = 256

/** @param what is read, for people. @throws FileError where it is no XML */
export async function scanXml(pieces: AsyncIterable<Uint8Array>, what: string, events: XmlEvents): Promise<void> {
  const parser = new SaxesParser()
  const decoder = new TextDecoder('utf-8')
  const names = new Map<string, string>()
  const local = (name: string): string => {
    const known = names.get(name)
    if (known !== undefined) return known
    const short = name.slice(name.indexOf(':') + 1)
    if (names.size < 1000) names.set(name, short)
    return short
  }
  let depth = 0
  parser.on('error', (error) => {
    throw fileError(
      'damaged',
      `The workbook is damaged: ${what} is not well-formed XML (${error.message}). Open it where it was made, and save it again.`,
    )
  })
  parser.on('doctype', () => {
    throw fileError('damaged', `${what} in this workbook declares a document type, which no workbook needs. It is not read.`)
  })
  parser.on('opentag', ({ name, attributes }) => {
    if (++depth > DEEPEST) throw fileError('damaged', `Elements of ${what} are nested more than ${DEEPEST} deep; no workbook's are.`)
    events.open?.(local(name), attributes)
  })
  parser.on('closetag', ({ name }) => {
    depth--
    events.close?.(local(name))
  })
  if (events.text) {
    parser.on('text', (text) => events.text!(text))
    parser.on('cdata', (text) => events.text!(text))
  }
  for await (const piece of pieces) parser.write(decoder.decode(piece, { stream: true }))
  parser.write(decoder.decode()).close()
}
