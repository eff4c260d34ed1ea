/** Where the thread begins that decides runs: threads do not take over what reads TypeScript from the program that starts them. */
import { register } from 'tsx/esm/api'

register()
await import('./run-worker')
