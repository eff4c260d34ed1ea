import { gzipSync } from 'node:zlib'
import { openDimeGate } from '../e2e/testing/dime-gate'
import type { Figure } from './figure'

const MOST_KB = 350

export const firstPageScript: Figure = {
  name: 'script of the first page, gzipped',
  reach: `at most ${MOST_KB} kB`,
  async measure() {
    const gate = await openDimeGate({ demo: true })
    try {
      const page = await gate.browser.newPage()
      const scripts: Promise<Buffer>[] = []
      page.on('response', (response) => {
        if (new URL(response.url()).pathname.endsWith('.js')) scripts.push(response.buffer().then((bytes) => Buffer.from(bytes)))
      })
      await page.goto(gate.address, { waitUntil: 'networkidle0' })
      const size = (await Promise.all(scripts)).reduce((sum, bytes) => sum + gzipSync(bytes).length, 0) / 1000
      return { measured: `${size.toFixed(0)} kB in ${scripts.length} files`, ok: size <= MOST_KB && scripts.length > 0 }
    } finally {
      await gate.close()
    }
  },
}
