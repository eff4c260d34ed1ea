/**
 * Measures what the product promises of its speed: a line a figure, `name | measured | reach | ok` or `… | short`.
 * `npm run bench -- NAME` measures those whose name contains NAME.
 */
import { installChromium } from '../tools/chromium'
import { joinCluster, removeCluster } from '../tools/postgres'
import { shell } from '../tools/shell'
import { allAtOnce, labelledAgainstCopy } from './all-at-once'
import { applyAgainstCopy } from './apply-against-copy'
import { blanksTextsDates } from './blanks-texts-dates'
import { decideAgainstCase } from './decide-against-case'
import { dmnOf2000Rules } from './dmn-of-2000-rules'
import { drawnAgainstSql, drawnFollows } from './drawn'
import { coinOfMany, dragOnAGrid, sideBySide } from './forms-in-chromium'
import { decideOverHttp } from './decide-over-http'
import { dragInChromium, millionInChromium } from './drag-in-chromium'
import { findingsWhileTyping } from './findings-in-chromium'
import type { Figure } from './figure'
import { linesAndArrowIn, listingOfMillion, workbookInAndOut } from './files-in-and-out'
import { fiveHundredRules } from './five-hundred-rules'
import { figuresFollow, meanOfSix } from './figures'
import { firstPageScript } from './first-page-script'
import { importAgainstCopy, importOfMillion } from './import-against-copy'
import { moveOneCut } from './move-one-cut'
import { twentyRules, twoHundredRules } from './rules-in-chromium'
import { reportOnPaper, slipsOnPaper } from './paper'
import { reviewOfMany } from './review'
import { runPage } from './run-page'
import { runAgainstCtas } from './run-against-ctas'
import { shapes } from './shapes'
import { startFromClone } from './start-from-clone'
import { tenGates } from './ten-gates'
import { benchBesideACorrection, jumpsInATable, typingAFigure } from './table-in-chromium'

const FIGURES: Figure[] = [decideAgainstCase, moveOneCut, blanksTextsDates, shapes, fiveHundredRules, importAgainstCopy, importOfMillion, workbookInAndOut, linesAndArrowIn, listingOfMillion, meanOfSix, figuresFollow, drawnAgainstSql, drawnFollows, applyAgainstCopy, runAgainstCtas, tenGates, runPage, reviewOfMany, reportOnPaper, slipsOnPaper, labelledAgainstCopy, allAtOnce, dmnOf2000Rules, dragInChromium, millionInChromium, twentyRules, twoHundredRules, dragOnAGrid, coinOfMany, sideBySide, decideOverHttp, findingsWhileTyping, typingAFigure, jumpsInATable, benchBesideACorrection, firstPageScript, startFromClone]

const CLUSTER = `bench-${process.pid}`
let short = 0
let ended = false
for (const signal of ['SIGINT', 'SIGTERM', 'disconnect'] as const) process.on(signal, () => void end(130))

const wanted = process.argv.slice(2).join(' ').toLowerCase()
const figures = FIGURES.filter(({ name }) => name.toLowerCase().includes(wanted))
if (figures.length === 0) console.log(`No figure has “${wanted}” in its name. There are:\n${FIGURES.map(({ name }) => `  ${name}`).join('\n')}`)
try {
  await shell(process.execPath, ['--import', 'tsx', 'tools/build-now.ts'])
  await installChromium()
  process.env.TEST_DATABASE_URL = (await joinCluster(CLUSTER)).url
  for (const figure of figures) {
    const { measured, ok } = await figure.measure()
    if (!ok) short++
    console.log(`${figure.name} | ${measured} | ${figure.reach} | ${ok ? 'ok' : 'short'}`)
  }
} catch (error) {
  console.log((error as Error).stack)
  short++
}
await end(short === 0 && figures.length > 0 ? 0 : 1)

async function end(code: number): Promise<never> {
  if (ended) return new Promise(() => undefined)
  ended = true
  await removeCluster(CLUSTER)
  process.exit(code)
}
