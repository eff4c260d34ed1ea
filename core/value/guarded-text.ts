/**
 * Text that a spreadsheet program would take for a formula and run (OWASP, "CSV Injection"), and how it is written so that
 * it does not: with an apostrophe before it, which such programs take for the sign of plain text. What is written so is
 * read back unchanged; figures with a sign before them are figures.
 */
const FORMULA = /^'*[-=+@\t\r]/
const GUARDED = /^''*[-=+@\t\r]/
const FIGURE = /^[-+]?[0-9][0-9.,' \u00a0\u202f]*([eE][-+]?[0-9]+)?[ \u00a0\u202f]?%?$/

export function guardText(text: string): string {
  return FORMULA.test(text) && !FIGURE.test(text) ? `'${text}` : text
}

export function unguardText(text: string): string {
  return GUARDED.test(text) && !FIGURE.test(text.slice(1)) ? text.slice(1) : text
}
