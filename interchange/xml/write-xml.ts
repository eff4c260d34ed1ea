/** Elements as XML text. */

/** What an element holds: other elements, one text, or nothing. */
export interface XmlNode {
  name: string
  attributes: Record<string, string | null>
  inside: XmlNode[] | string
}

/** @param attributes null ones are left out */
export function xmlNode(name: string, attributes: XmlNode['attributes'] = {}, inside: XmlNode['inside'] = []): XmlNode {
  return { name, attributes, inside }
}

export function writeXml(root: XmlNode): string {
  const lines = ['<?xml version="1.0" encoding="UTF-8"?>']
  const write = ({ name, attributes, inside }: XmlNode, indent: string) => {
    const written = Object.entries(attributes).flatMap(([key, value]) => (value === null ? [] : [` ${key}="${escaped(value)}"`])).join('')
    const [only, ...others] = inside
    if (typeof inside === 'string') lines.push(`${indent}<${name}${written}>${escapedText(inside)}</${name}>`)
    else if (inside.length === 0) lines.push(`${indent}<${name}${written}/>`)
    // What holds nothing but one text reads best on one line.
    else if (others.length === 0 && isBareText(only as XmlNode)) lines.push(`${indent}<${name}${written}>${bareText(only as XmlNode)}</${name}>`)
    else {
      lines.push(`${indent}<${name}${written}>`)
      for (const child of inside) write(child, `${indent}  `)
      lines.push(`${indent}</${name}>`)
    }
  }
  write(root, '')
  return `${lines.join('\n')}\n`
}

function isBareText({ attributes, inside }: XmlNode): boolean {
  return typeof inside === 'string' && Object.keys(attributes).length === 0
}

function bareText({ name, inside }: XmlNode): string {
  return `<${name}>${escapedText(inside as string)}</${name}>`
}

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', '\t': '&#9;', '\n': '&#10;', '\r': '&#13;' }

/** A carriage return is written by number, or it would come back as the end of a line (clause 2.11). */
function escapedText(text: string): string {
  return text.replace(/[&<>\r]/g, (character) => ESCAPES[character]!)
}

/** In an attribute all white space but the blank is written by number (clause 3.3.3). */
function escaped(text: string): string {
  return text.replace(/[&<>"\t\n\r]/g, (character) => ESCAPES[character]!)
}

/** Characters that XML 1.0 has no way to write (clause 2.2), half pairs among them. */
export const NO_XML_CHARACTER = /[\0-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g
