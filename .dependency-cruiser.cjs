/**
 * Which room may import which. The walk of the data goes one way:
 * core ← interchange ← contract; server, web, cli and demo stand on those, and nothing imports them.
 * @type {import('dependency-cruiser').IConfiguration}
 */
const only = (room, allowed, comment) => ({
  name: `${room}-stands-on`,
  comment,
  severity: 'error',
  from: { path: `^${room}/` },
  to: { path: '^(core|interchange|contract|demo|server|web|cli|tools|bench|faults|e2e)/', pathNot: `^(${[room, ...allowed].join('|')})/` },
})
const below = (folder, allowed) => ({
  name: `core-${folder}-stands-on`,
  severity: 'error',
  from: { path: `^core/${folder}/`, pathNot: '\\.test\\.ts$' },
  to: { path: '^core/', pathNot: `^core/(${[folder, ...allowed].join('|')})/` },
})

module.exports = {
  forbidden: [
    { name: 'no-loops', severity: 'error', from: {}, to: { circular: true } },
    only('core', [], 'the job itself knows nothing of files, wires or pages'),
    only('interchange', ['core'], 'open formats to and from core'),
    only('contract', ['core', 'interchange'], 'what crosses the wire'),
    only('demo', ['core'], 'made-up data'),
    only('server', ['core', 'interchange', 'contract', 'demo'], 'nobody imports the page or the tools'),
    only('web', ['core', 'interchange', 'contract'], 'the page reaches the server by the wire alone'),
    only('cli', ['core', 'interchange', 'contract'], 'files in and out, around core'),
    below('value', []),
    below('table', ['value']),
    below('expression', ['value']),
    below('gate', ['value', 'table', 'expression']),
    below('rule', ['value', 'expression', 'gate']),
    below('decide', ['value', 'expression', 'gate', 'rule']),
    below('bulk', ['value', 'table', 'expression', 'gate', 'rule', 'decide']),
    below('form', ['value', 'expression', 'gate', 'rule', 'bulk']),
    below('slip', ['value', 'expression', 'gate', 'rule', 'form']),
    below('nearest', ['value', 'table', 'expression', 'gate', 'rule', 'decide', 'bulk', 'form', 'result']),
    below('finding', ['value', 'table', 'expression', 'gate', 'rule', 'decide', 'bulk']),
    below('expectation', ['value', 'bulk']),
    below('compare', ['value', 'table']),
    below('result', ['value', 'table', 'expression', 'gate', 'rule', 'decide', 'bulk', 'finding']),
    {
      name: 'core-is-pure',
      comment: 'decimal.js is the one dependency of core',
      severity: 'error',
      from: { path: '^core/', pathNot: '(\\.test\\.ts$|/testing/)' },
      to: { dependencyTypes: ['core', 'npm', 'npm-dev', 'npm-no-pkg', 'npm-unknown'], pathNot: 'decimal\\.js' },
    },
    { name: 'resolvable', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(build|\\.data)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'require', 'node', 'default', 'types'], extensions: ['.ts', '.vue', '.mjs', '.js', '.json', '.css'] },
  },
}
