/** Where every thread begins: threads do not take over what reads TypeScript from the program that starts them. */
import { workerData } from 'node:worker_threads'
import { register } from 'tsx/esm/api'

register()
await import(workerData.program)
