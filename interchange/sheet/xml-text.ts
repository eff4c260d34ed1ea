/** Text in XML. */

const SIGNS: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', '\n': '&#10;', '\r': '&#13;', '\t': '&#9;' }

/** For attributes and content alike. Characters that XML 1.0 cannot hold have to be gone. */
export function xmlText(text: string): string {
  return /[&<>"\n\r\t]/.test(text) ? text.replace(/[&<>"\n\r\t]/g, (sign) => SIGNS[sign]!) : text
}

/** XML 1.0 (2.2) has no place for these. */
export const NOT_IN_XML = /[\x00-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff]/
