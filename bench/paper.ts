/** On paper: the report of a large run with as many exceptions as are printed, and a thousand slips as one PDF. */
import { execFileSync } from 'node:child_process'
import { gateSchema } from '@dime-gate/contract/gate'
import { reviewSchema } from '@dime-gate/contract/review'
import { runSchema } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { askAt } from '../server/testing/bring-in'
import { openDimeGate } from '../e2e/testing/dime-gate'
import { treesFor } from './bring-in-trees'
import type { Figure } from './figure'

const RECORDS = 1_000_000
const SLIPS = 1000
/** Seconds. */
const [MOST_REPORT, MOST_SLIPS] = [15, 30]
/** Memory of the second report beside that of the first: more would mean that something stays. */
const MOST_GROWN = 1.1

export const reportOnPaper: Figure = {
  name: `the report of a run of ${RECORDS.toLocaleString('en')} records, with 2,000 exceptions listed, as PDF, twice; the most memory that the browser took for the first, and for the second`,
  reach: `at most ${MOST_REPORT} s; the second at most ${MOST_GROWN} × the first`,
  async measure() {
    const gate = await openDimeGate()
    try {
      const { id } = await labelled(gate.address, await (await treesFor(gate.address, RECORDS))('Trees'))
      const ask = askAt(gate.address)
      while (reviewSchema.parse((await ask('GET', '/review')).body).looking.length > 0);
      const [first, second] = [await printed(`${gate.address}/api/v1/runs/${id}/report.pdf`), await printed(`${gate.address}/api/v1/runs/${id}/report.pdf`)]
      const told = [first, second].map(({ seconds, bytes, memory }) => `${seconds.toFixed(1)} s, ${(bytes / 1e6).toFixed(1)} MB, ${Math.round(memory / 1e6)} MB of memory`)
      return { measured: told.join('; '), ok: Math.max(first.seconds, second.seconds) <= MOST_REPORT && second.memory <= MOST_GROWN * first.memory }
    } finally {
      await gate.close()
    }
  },
}

export const slipsOnPaper: Figure = {
  name: `${SLIPS.toLocaleString('en')} slips as one PDF`,
  reach: `at most ${MOST_SLIPS} s`,
  async measure() {
    const gate = await openDimeGate()
    try {
      const { id } = await labelled(gate.address, await (await treesFor(gate.address, 100_000))('Trees'))
      const records = Array.from({ length: SLIPS }, (_, at) => at + 1).join(',')
      const { seconds, bytes, pages } = await printed(`${gate.address}/api/v1/runs/${id}/slips.pdf?records=${records}`)
      return { measured: `${seconds.toFixed(1)} s, ${(bytes / 1e6).toFixed(1)} MB, ${pages.toLocaleString('en')} pages`, ok: seconds <= MOST_SLIPS && pages === SLIPS }
    } finally {
      await gate.close()
    }
  },
}

/** A run of a scale on the decay of trees, ranked, once it is done. */
async function labelled(address: string, table: Table): Promise<{ id: number }> {
  const ask = askAt(address)
  const scale = plainScale('Decay band', givenNumber('Decay', '%'), ['12', '25', '40'].map((at) => ({ at, owner: 'above' as const })), ['Sound', 'Watch', 'Weak', 'Failing'].map((label) => ({ label, colour: '#56625f', mark: 'disc' as const })))
  const draft = { ...scale, outcomes: scale.outcomes.map((one) => ({ ...one, labels: one.labels.map((label, rank) => ({ ...label, rank })) })) }
  const { id: gateId } = gateSchema.parse((await ask('POST', '/gates', { draft, binding: { tableId: table.id, inputs: { Decay: { column: table.columns.find((one) => one.name === 'Decay')!.id } } } })).body)
  await ask('POST', `/gates/${gateId}/versions`, { seen: 1 })
  const { id } = runSchema.parse((await ask('POST', '/runs', { gateId, version: 1, tableId: table.id, binding: 1 })).body)
  while (runSchema.parse((await ask('GET', `/runs/${id}`)).body).state === 'under way') await new Promise((resolve) => setTimeout(resolve, 200))
  return { id }
}

/** @returns memory in bytes: the most that the largest process of the browser that prints took meanwhile */
async function printed(url: string): Promise<{ seconds: number; bytes: number; pages: number; memory: number }> {
  let memory = 0
  const looks = setInterval(() => (memory = Math.max(memory, largestPrinting())), 200)
  try {
    const since = performance.now()
    const answer = await fetch(url)
    if (!answer.ok) throw new Error(await answer.text())
    const pdf = Buffer.from(await answer.arrayBuffer())
    return { seconds: (performance.now() - since) / 1000, bytes: pdf.length, pages: pdf.toString('latin1').match(/\/Type\s*\/Page\b/g)?.length ?? 0, memory }
  } finally {
    clearInterval(looks)
  }
}

/** Of the pages that Chromium holds, the one with the most memory. */
function largestPrinting(): number {
  const lines = execFileSync('ps', ['-eo', 'rss=,args='], { encoding: 'utf8', maxBuffer: 1 << 26 }).split('\n').filter((line) => line.includes('--type=renderer'))
  return Math.max(0, ...lines.map((line) => Number(line.trim().split(' ')[0]) * 1024))
}
