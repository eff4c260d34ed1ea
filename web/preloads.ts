/**
 * Tells the server which scripts a page of the interface needs, so that they are on their way before the first of them has said so. The build
 * leaves a list beside the interface; the page's own way of fetching what it needs does not depend on it.
 */
import type { Plugin } from 'vite'

/** The pages that people go to by an address of their own, and the component of each. */
const PAGES: { address: string; page: string }[] = [
  { address: '^/runs/\\d+$', page: 'src/run/RunPage.vue' },
  { address: '^/runs/\\d+/against/', page: 'src/comparison/ComparisonPage.vue' },
  { address: '^/gates/\\d+$', page: 'src/bench/BenchPage.vue' },
  { address: '^/tables/\\d+$', page: 'src/table/TablePage.vue' },
  { address: '^/review$', page: 'src/review/ReviewPage.vue' },
]

/** One entry of the list. @property files addresses, without those that every page has */
export interface Preloads {
  address: string
  files: string[]
}

export function preloads(): Plugin {
  return {
    name: 'preloads',
    apply: 'build',
    generateBundle(_, bundle) {
      const chunks = Object.values(bundle).flatMap((one) => (one.type === 'chunk' ? [one] : []))
      const withImports = (file: string, found = new Set<string>()): Set<string> => {
        if (found.has(file)) return found
        found.add(file)
        chunks.find(({ fileName }) => fileName === file)?.imports.forEach((next) => withImports(next, found))
        return found
      }
      const always = new Set(chunks.filter(({ isEntry }) => isEntry).flatMap(({ fileName }) => [...withImports(fileName)]))
      const list = PAGES.map(({ address, page }): Preloads => {
        const chunk = chunks.find(({ facadeModuleId }) => facadeModuleId?.replaceAll('\\', '/').endsWith(`/${page}`))
        if (!chunk) this.error(`There is no page ${page} any more: change where the pages are listed.`)
        return { address, files: [...withImports(chunk.fileName)].filter((file) => !always.has(file)).map((file) => `/${file}`) }
      })
      this.emitFile({ type: 'asset', fileName: 'preloads.json', source: JSON.stringify(list) })
    },
  }
}
