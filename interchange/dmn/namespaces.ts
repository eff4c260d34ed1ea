/** The names that DMN's versions go by. */

/** Of the model, by version; what is read. */
export const DMN_NAMESPACES: Record<string, string> = {
  'http://www.omg.org/spec/DMN/20151101/dmn.xsd': '1.1',
  'http://www.omg.org/spec/DMN/20180521/MODEL/': '1.2',
  'https://www.omg.org/spec/DMN/20191111/MODEL/': '1.3',
  'https://www.omg.org/spec/DMN/20211108/MODEL/': '1.4',
  'https://www.omg.org/spec/DMN/20230324/MODEL/': '1.5',
}
/** What is written. */
export const DMN_1_5 = 'https://www.omg.org/spec/DMN/20230324/MODEL/'
/** The language of expressions, where a file names one. */
export const FEEL_NAMESPACES = [
  'http://www.omg.org/spec/FEEL/20140401',
  'http://www.omg.org/spec/DMN/20180521/FEEL/',
  'https://www.omg.org/spec/DMN/20191111/FEEL/',
  'https://www.omg.org/spec/DMN/20211108/FEEL/',
  'https://www.omg.org/spec/DMN/20230324/FEEL/',
]
/** Of the extension element that carries what DMN has no place for. */
export const DIME_GATE = 'urn:dime-gate:gate:1'
