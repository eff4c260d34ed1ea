import { build } from './build'

await build()
process.exit(0)
