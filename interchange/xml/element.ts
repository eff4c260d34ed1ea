/** An XML document as plain data. */
import type { Place } from '../source-problem'

export interface XmlElement extends Place {
  /** Without its prefix. */
  name: string
  namespace: string
  /** Those of no namespace: attributes of others are theirs alone. */
  attributes: Record<string, string>
  children: XmlElement[]
  /** All text directly inside, entities resolved. */
  text: string
  /** Where that text begins. */
  textAt: Place
}
