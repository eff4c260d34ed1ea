import { problemWords } from '../expression/problem-words'
import type { FigureTrouble } from './figure'

/** What is wrong with a figure, in words that say what to do. */
export function figureTroubleWords(trouble: FigureTrouble): string {
  switch (trouble.code) {
    case 'expression':
      return problemWords(trouble.problem)
    case 'kind':
      if (trouble.type === 'days and time duration') return 'This comes to a duration. Take a number of it: (…).days'
      if (trouble.type === 'years and months duration')
        return 'This comes to a duration. Take a number of it: (…).years, or (…).months beyond whole years'
      if (trouble.type.startsWith('list of '))
        return `This comes to a ${trouble.type}. Make one value of it, as with mean(…), sum(…) or count(…).`
      return `This comes to a ${trouble.type}; a column holds numbers, texts, dates, or yes and no.`
    case 'ring':
      return trouble.names.length === 1
        ? 'This figure needs itself.'
        : `This goes round in a ring: ${[...trouble.names, trouble.names[0]!].map((name) => `“${name}”`).join(' needs ')}. Take one of them out.`
    case 'beneath':
      return `This needs “${trouble.name}”, which cannot be computed.`
  }
}
