import { Agent, request } from 'node:http'
import { performance } from 'node:perf_hooks'
import { deskSchema } from '@dime-gate/contract/desk'
import { openDimeGate } from '../e2e/testing/dime-gate'
import { type Figure, median, quantile } from './figure'

const CALLERS = 50
const CALLS = 100
const MOST = 25
const RECORDS = [{ Decay: 45, Lean: 20, 'Stands by': 'school', Height: 18, Trunk: 60 }, { Decay: 3, Lean: 1, 'Stands by': 'verge', Height: 9, Trunk: 30 }, { Decay: 30, 'Stands by': 'road', Height: 12, Trunk: 40 }]

/** Each caller asks again as soon as it is answered. */
export const decideOverHttp: Figure = {
  name: `one record labelled over HTTP, ${CALLERS} callers at once: p99`,
  reach: `at most ${MOST} ms`,
  async measure() {
    const gate = await openDimeGate({ demo: true })
    try {
      const { gates } = deskSchema.parse(await (await fetch(`${gate.address}/api/v1/desk`)).json())
      const { id } = gates.find(({ name }) => name === 'Felling decision')!
      const agent = new Agent({ keepAlive: true, maxSockets: CALLERS })
      const { hostname, port } = new URL(gate.address)
      const bodies = RECORDS.map((record) => JSON.stringify({ records: [record] }))
      const call = (at: number) => new Promise<number>((done, failed) => {
        const start = performance.now()
        const asked = request({ hostname, port, agent, method: 'POST', path: `/api/v1/gates/${id}/versions/1/decide` }, (answer) => {
          if (answer.statusCode !== 200) failed(new Error(`answered ${answer.statusCode}`))
          answer.resume().on('end', () => done(performance.now() - start))
        })
        asked.on('error', failed).end(bodies[at % bodies.length])
      })
      const all = () => Promise.all(Array.from({ length: CALLERS }, async (_, caller) => {
        const own: number[] = []
        for (let at = 0; at < CALLS; at++) own.push(await call(caller + at))
        return own
      }))
      // A program that has run for a moment is what callers meet.
      await all()
      const times = (await all()).flat()
      const p99 = quantile(times, 0.99)
      return { measured: `${p99.toFixed(1)} ms (median ${median(times).toFixed(1)} ms, ${times.length} calls)`, ok: p99 <= MOST }
    } finally {
      await gate.close()
    }
  },
}
