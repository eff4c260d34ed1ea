/** Checks of the code that run no code: types, lint, and which room imports which. */
import { shell } from './shell'

export interface Check {
  name: string
  run: () => Promise<unknown>
}

const ROOMS = ['core', 'interchange', 'contract', 'demo', 'server', 'web', 'cli', 'tools', 'bench', 'faults', 'e2e']
const program = (name: string) => `node_modules/.bin/${name}`

export const CHECKS: Check[] = [
  { name: 'types of core, without any environment', run: () => shell(program('tsc'), ['-p', 'core']) },
  { name: 'types', run: () => shell(program('tsc'), ['-p', '.']) },
  { name: 'types of the interface', run: () => shell(program('vue-tsc'), ['-p', 'web']) },
  { name: 'lint', run: () => shell(program('eslint'), ['--max-warnings', '0', '.']) },
  { name: 'import directions', run: () => shell(program('depcruise'), ['--config', '.dependency-cruiser.cjs', ...ROOMS]) },
]
