/** A program for Node as one file, packages too: each room then gets the very version that it asks for. */
import { build } from 'esbuild'

/**
 * @param {string} entry
 * @param {string} outfile
 */
export function bundle(entry, outfile) {
  return build({
    entryPoints: [entry],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    // What packages have as modules can be taken apart; their other builds sometimes cannot.
    mainFields: ['module', 'main'],
    sourcemap: true,
    logLevel: 'error',
    external: ['pg-native'],
    define: { IS_BUILT: 'true' },
    banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
  })
}
