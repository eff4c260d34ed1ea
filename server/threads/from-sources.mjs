/** Where threads begin that run from sources: they do not take over what reads TypeScript from the program that starts them. */
import { register } from 'tsx/esm/api'

register()
// Said so, the path is nobody's to check before it is read.
await import(new URL('../thread.ts', import.meta.url).href)
