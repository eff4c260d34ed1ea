import { existsSync, readFileSync } from 'node:fs'
import { readdir } from 'node:fs/promises'
import { Readable } from 'node:stream'
import { dirname } from 'node:path'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { type Folder, runCommand, temporaryFolder } from './testing/run-command'

jest.setTimeout(180_000)

let folder: Folder
let gate: string
let table: string
const SCALE = {
  ...plainScale('Decay band', givenNumber('Decay', '%'), [{ at: '12', owner: 'above' }, { at: '40', owner: 'below' }], ['Sound', 'Watch', 'Failing'].map((label) => ({ label, colour: '#7fa99a', mark: 'disc' }))),
  floor: { at: '0', included: true },
}
const TABLE = 'Tree no,Decay (%),Note\n0001,5,"a, ""b"""\n0002,12,\n0003,40,c\n0004,n/a,d\n0005,,e\n0006,-1,f\n0007,40.01,g\n'
const LABELLED = 'Tree no,Decay (%),Note,Label,gate status,gate rule\n0001,5,"a, ""b""",Sound,labelled,1\n0002,12,,Watch,labelled,2\n0003,40,c,Watch,labelled,2\n0004,n/a,d,,held,\n0005,,e,,held,\n0006,-1,f,,unplaced,\n0007,40.01,g,Failing,labelled,3\n'

beforeAll(async () => {
  folder = await temporaryFolder()
  gate = await folder.write('decay.json', SCALE)
  table = await folder.write('trees.csv', TABLE)
})
afterAll(() => folder.remove())

const apply = (...args: string[]) => runCommand(['apply', '--gate', gate, ...args])

describe('apply', () => {
  test('writes the columns as they were, then outcome, status and rule; counts go to standard error', async () => {
    const out = folder.path('out.csv')
    const ran = await apply('--in', table, '--out', out)
    expect(ran).toMatchObject({ code: 0, out: '' })
    expect(readFileSync(out, 'utf8')).toBe(LABELLED)
    expect(ran.err.split('\n').map((line) => line.replace(/ {2,}(\d+)$/, ' $1'))).toEqual(
      ['Decay band, 7 records', '  Sound 1', '  Watch 2', '  Failing 1', '  [unplaced] 1', '  [held] 2', 'unreadable', '  Decay, first in record 4: “n/a” 1', ''])
  })

  test('from a pipe to a pipe, in pieces of any size', async () => {
    const pieces = Readable.from([...Buffer.from(TABLE)].map((byte) => Buffer.of(byte)))
    expect(await runCommand(['apply', '--gate', gate, '--in', '-', '--out', '-'], { input: pieces })).toMatchObject({ code: 0, out: LABELLED })
    expect(await runCommand(['apply', '--gate', '-', '--in', table, '--out', '-'], { input: JSON.stringify(SCALE) })).toMatchObject({ code: 0, out: LABELLED })
  })

  test('onto the very file that it reads', async () => {
    const own = await folder.write('own.csv', TABLE)
    expect((await apply('--in', own, '--out', own)).code).toBe(0)
    expect(readFileSync(own, 'utf8')).toBe(LABELLED)
  })

  test('keeps line ends; other delimiters, marks and encodings when told', async () => {
    const file = await folder.write('semicolons.csv', Buffer.from('Baum;Decay\r\nBirke;12,5\r\nK\xfcche;40,1\r\n', 'latin1'))
    const ran = await apply('--in', file, '--out', '-', '--delimiter', ';', '--decimal-mark', 'comma', '--encoding', 'windows-1252')
    expect(ran.out).toBe('Baum;Decay;Label;gate status;gate rule\r\nBirke;12,5;Watch;labelled;2\r\nKüche;40,1;Failing;labelled;3\r\n')
  })

  test('says why', async () => {
    const { out } = await apply('--in', table, '--out', '-', '--why')
    expect(out.split('\n')[0]).toMatch(/,gate why$/)
    expect(out).toContain('Decay 40 | 1 Decay in [0..12): no | 2 Decay in [12..40]: yes')
    expect(out).toContain('Decay blank | 1 Decay in [0..12): open | 2 Decay in [12..40]: open | 3 Decay > 40: open | held for Decay')
  })

  test('a blank holds or passes as the command says', async () => {
    const { out } = await apply('--in', table, '--out', '-', '--blank', 'pass')
    expect(out).toContain('0005,,e,,unplaced,')
  })

  test('a column of another name is bound by hand, members of a set one by one', async () => {
    const course = await folder.write('course.json', rulesGate([{ ...anInput('Modules', 'number'), isSet: true }], [['mean(Modules) >= 3', 'crown'], ['mean(Modules) < 3', 'ground']]))
    const marks = await folder.write('marks.csv', 'Trainee,Module 1,Module 2\nA,4,2\nB,,1\nC,,\n')
    const ran = await runCommand(['apply', '--gate', course, '--in', marks, '--out', '-', '--bind', 'Modules=Module 1', '--bind', 'Modules=Module 2'])
    expect(ran.out).toBe('Trainee,Module 1,Module 2,Label,gate status,gate rule\nA,4,2,crown,labelled,1\nB,,1,ground,labelled,2\nC,,,,held,\n')
    const lists = await folder.write('lists.csv', 'Modules\n"[4, 2]"\n1\n[x]\n')
    expect((await runCommand(['apply', '--gate', course, '--in', lists, '--out', '-'])).out).toBe('Modules,Label,gate status,gate rule\n"[4, 2]",crown,labelled,1\n1,ground,labelled,2\n[x],,held,\n')
  })

  test('a table of nothing but column names', async () => {
    const empty = await folder.write('names.csv', 'Decay\n')
    expect(await apply('--in', empty, '--out', '-')).toMatchObject({ code: 0, out: 'Decay,Label,gate status,gate rule\n' })
  })

  test('whoever stops reading is no fault', async () => {
    const many = Readable.from((function* () {
      yield 'Decay\n'
      for (let at = 0; at < 400_000; at++) yield `${at % 100}\n`
    })())
    const ran = await runCommand(['apply', '--gate', gate, '--in', '-', '--out', '-'], { input: many, closeAfter: 1000 })
    expect({ code: ran.code, err: ran.err }).toEqual({ code: 0, err: '' })
  })

  test('a full disk is told', async () => {
    const { spawnSync } = await import('node:child_process')
    const ran = spawnSync('sh', ['-c', `node tools/dimegate.mjs apply --gate "${gate}" --in "${table}" --out - > /dev/full`], { encoding: 'utf8' })
    expect({ status: ran.status, err: ran.stderr }).toEqual({ status: 2, err: 'standard output: The disk is full.\n' })
  })

  test('an interruption leaves what was there, and nothing beside it', async () => {
    const out = await folder.write('interrupted.csv', 'old')
    const { spawn } = await import('node:child_process')
    const child = spawn(process.execPath, ['tools/dimegate.mjs', 'apply', '--gate', gate, '--in', '-', '--out', out], { stdio: ['pipe', 'ignore', 'ignore'] })
    child.stdin.write(`Decay\n${'5\n'.repeat(50_000)}`)
    const part = async () => (await readdir(dirname(out))).find((name) => name.startsWith('interrupted.csv.'))
    while (!(await part())) await new Promise((resolve) => setTimeout(resolve, 50))
    child.kill('SIGTERM')
    await new Promise((resolve) => child.once('exit', resolve))
    expect(await part()).toBeUndefined()
    expect(readFileSync(out, 'utf8')).toBe('old')
  })

  test('a million records in less than 300 MB', async () => {
    const line = (at: number) => `${String(at).padStart(7, '0')},Hill Ward,Fishpond Lane ${at % 90},${at % 140},1999-04-02,footway,${at % 31},x\n`
    const many = Readable.from((function* () {
      yield 'Tree no,Ward,Street,Decay (%),Planted,Stands by,Lean,Note\n'
      for (let at = 0; at < 1_000_000; at += 500) yield Array.from({ length: 500 }, (_, more) => line(at + more)).join('')
    })())
    const ran = await runCommand(['apply', '--gate', gate, '--in', '-', '--out', '-'], { input: many, discards: true })
    expect(ran.code).toBe(0)
    expect(ran.err).toMatch(/Decay band, 1000000 records/)
    expect(ran.peak).toBeGreaterThan(0)
    expect(ran.peak).toBeLessThan(300_000_000)
  })
})

describe('a DMN file', () => {
  const inspection = 'interchange/dmn/testing/tree-inspection.dmn'
  const HEADERS = 'Tree.Height,Tree.Trunk girth,Stem decay,Stands by,Last inspected'
  const trees = `${HEADERS}\n20,62.8,12,school,2026-01-01\n16,62.8,,verge,2025-03-01\n`

  test('gives a column for each decision, or for each of its outputs, then status and rule of each table', async () => {
    const ran = await runCommand(['apply', '--gate', inspection, '--in', '-', '--out', '-', '--as-of', '2026-03-02'], { input: trees })
    expect(ran.out.split('\n').slice(0, 3)).toEqual([
      `${HEADERS},Slenderness,Stem state,Next visit.when,Next visit.visits,Letter,Stem state status,Stem state rule,Next visit status,Next visit rule`,
      '20,62.8,12,school,2026-01-01,100,failing,this week,4,"Come this week, 4 times",labelled,2,labelled,2',
      '16,62.8,,verge,2025-03-01,80,sound,this month,1,"Come this month, 1 times",otherwise,,labelled,3',
    ])
  })

  test('only one decision, and what it needs; a single table goes by the plain names', async () => {
    const stem = await runCommand(['apply', '--gate', inspection, '--in', '-', '--out', '-', '--decision', 'Stem state'], { input: trees })
    expect(stem.out.split('\n').slice(0, 2)).toEqual([`${HEADERS},Slenderness,Stem state,Stem state status,Stem state rule`, '20,62.8,12,school,2026-01-01,100,failing,labelled,2'])
    const alone = await runCommand(['apply', '--gate', 'interchange/dmn/testing/every-policy.dmn', '--in', '-', '--out', '-', '--decision', 'Highest'], { input: 'Marks\n85\n49\n' })
    expect(alone.out).toBe('Marks,Highest,gate status,gate rule\n85,3,labelled,2\n49,,unplaced,\n')
  })

  test('lists that one decision hands to the next', async () => {
    const ran = await runCommand(['apply', '--gate', 'interchange/dmn/testing/every-policy.dmn', '--in', '-', '--out', '-', '--decision', 'Sum of all'], { input: 'Marks\n85\n' })
    expect(ran.out).toBe('Marks,All,How many,Sum of all,All status,All rule,How many status,How many rule\n85,"[1, 3, 2]",3,63,labelled,1,labelled,1\n')
  })

  test('blanks pass, unless the command says that they hold', async () => {
    const one = { input: 'Marks\n\n"x"\n' }
    const args = ['apply', '--gate', 'interchange/dmn/testing/every-policy.dmn', '--in', '-', '--out', '-', '--decision', 'First one']
    expect((await runCommand(args, one)).out).toBe('Marks,First one,gate status,gate rule\n,,unplaced,\nx,,unplaced,\n')
    expect((await runCommand([...args, '--blank', 'hold'], one)).out).toBe('Marks,First one,gate status,gate rule\n,,held,\nx,,held,\n')
  })

  test('of ours decides as the document does', async () => {
    const dmn = folder.path('decay.dmn')
    expect((await runCommand(['convert', '--gate', gate, '--to', 'dmn', '--out', dmn])).code).toBe(0)
    const ran = await runCommand(['apply', '--gate', dmn, '--in', table, '--out', '-'])
    expect(ran.out).toBe(LABELLED.replace('Label', 'Decay band'))
    expect(JSON.parse((await runCommand(['convert', '--gate', dmn, '--to', 'json'])).out)).toEqual(SCALE)
  })
})

describe('check', () => {
  test('tells findings with examples, and ends with 1 where one is an error', async () => {
    const holed = await folder.write('holed.json', rulesGate([anInput('Decay', 'number')], [['Decay < 40', 'Sound'], ['Decay > 40', 'Failing']]))
    const ran = await runCommand(['check', '--gate', holed])
    expect(ran).toMatchObject({ code: 1, err: '' })
    expect(ran.out).toContain('error    edge hole: Exactly this value is taken by no rule: Decay = 40. Example: Decay 40.')
    const { out, code } = await runCommand(['check', '--gate', holed, '--json'])
    expect(code).toBe(1)
    expect(JSON.parse(out)).toMatchObject([{ gate: 'Gate', findings: [{ kind: 'edge hole', severity: 'error', rules: expect.any(Array), example: { Decay: '40' } }], areGapsProven: true }])
  })

  test('ends with 0 where nothing is worse than a doubt', async () => {
    const ran = await runCommand(['check', '--gate', gate])
    expect(ran.code).toBe(0)
    expect(ran.out).toContain('note     gap: No band takes Decay < 0.')
  })
})

describe('convert and read', () => {
  test('to SQL and to a formula, of the label or of what is asked for', async () => {
    expect((await runCommand(['convert', '--gate', gate, '--to', 'sql', '--bind', 'Decay=Decay (%)'])).out).toBe(
      `CASE\n  WHEN "Decay (%)" IS NULL THEN NULL\n  WHEN "Decay (%)" >= 0 AND "Decay (%)" < 12 THEN 'Sound'\n  WHEN "Decay (%)" >= 12 AND "Decay (%)" <= 40 THEN 'Watch'\n  WHEN "Decay (%)" > 40 THEN 'Failing'\nEND\n`)
    expect((await runCommand(['convert', '--gate', gate, '--to', 'openformula', '--outcome', 'gate rule'])).out).toBe('=IF(NOT(ISNUMBER(Decay)); ""; IF(AND(Decay >= 0; Decay < 12); 1; IF(AND(Decay >= 12; Decay <= 40); 2; IF(Decay > 40; 3; ""))))\n')
  })

  test('a conditional becomes a gate that can be applied', async () => {
    const made = folder.path('made.json')
    const ran = await runCommand(['read', '--from', 'openformula', '--in', '-', '--out', made, '--name', 'Bands'], { input: '=IF(Decay<12;"Sound";IF(Decay>12;"Failing";"Watch"))' })
    expect(ran.code).toBe(0)
    const { out } = await runCommand(['apply', '--gate', made, '--in', table, '--out', '-'])
    expect(out).toContain('0002,12,,Watch,otherwise,')
  })

  test('a chart becomes a scale, and what is doubtful about it is said', async () => {
    const ran = await runCommand(['read', '--from', 'chart', '--in', '-', '--name', 'Marks', '--input', 'Mark'], { input: '50–64\tground\n65+\tclimb\n' })
    expect(JSON.parse(ran.out)).toMatchObject({ form: 'scale', on: 'Mark', cuts: [{ at: '65', owner: 'above' }] })
    expect(ran.err).toContain('warning  line 2, step hole:')
    expect(ran.err).toContain('not low enough')
  })
})

describe('what is wrong ends with 2 and one message that says where, and leaves what was there', () => {
  const cases: [string, () => Promise<string[]>, RegExp][] = [
    ['no such gate', async () => ['apply', '--gate', folder.path('gone.json'), '--in', table, '--out', '-'], /gone\.json: There is no such file/],
    ['no such table', async () => ['apply', '--gate', gate, '--in', folder.path('gone.csv'), '--out', '-'], /gone\.csv: There is no such file/],
    ['a folder', async () => ['apply', '--gate', gate, '--in', dirname(table), '--out', '-'], /This is a folder/],
    ['a folder that is not there', async () => ['apply', '--gate', gate, '--in', table, '--out', folder.path('gone/out.csv')], /out\.csv: There is no such file or folder/],
    ['no table named', async () => ['apply', '--gate', gate], /required option '--in <table>' not specified/],
    ['an option that there is not', async () => ['apply', '--gate', gate, '--in', table, '--out', '-', '--frobnicate'], /unknown option '--frobnicate'/],
    ['a day that there is not', async () => ['apply', '--gate', gate, '--in', table, '--out', '-', '--as-of', '2026-02-30'], /YYYY-MM-DD/],
    ['a blank policy that there is not', async () => ['apply', '--gate', gate, '--in', table, '--out', '-', '--blank', 'skip'], /hold, pass/],
    ['a command that there is not', async () => ['aply'], /unknown command 'aply'/],
    ['a gate that is no JSON', async () => ['check', '--gate', await folder.write('broken.json', '{\n "schema": 1,\n "form" "scale"\n}')], /broken\.json, line 3, column 9: This is not JSON/],
    ['a gate of another shape', async () => ['check', '--gate', await folder.write('odd.json', JSON.stringify({ ...SCALE, bands: 'three' }, null, 1))], /odd\.json, line \d+, column \d+: “bands”/],
    ['a gate that cannot decide', async () => ['check', '--gate', await folder.write('wrong.json', JSON.stringify(rulesGate([anInput('Decay', 'number')], [['Decai > 3', 'a']]), null, 1))], /wrong\.json, line \d+, column \d+: “rules\.0\.condition” of the gate “Gate”: Nothing is named “Decai” here\. Did you mean “Decay”/],
    ['a DMN file with something unsupported', async () => ['check', '--gate', await folder.write('odd.dmn', readFileSync('interchange/dmn/testing/every-policy.dmn', 'utf8').replace('"RULE ORDER"', '"AT WILL"'))], /odd\.dmn, line \d+, column \d+: The hit policy “AT WILL”/],
    ['a decision that there is not', async () => ['apply', '--gate', gate, '--in', table, '--out', '-', '--decision', 'Decay bend'], /no decision “Decay bend”.*Did you mean “Decay band”/],
    ['no column for an input', async () => ['apply', '--gate', gate, '--in', await folder.write('other.csv', 'Tree,Decai\n1,2\n'), '--out', '-'], /other\.csv, line 1: No column is named “Decay”.*Did you mean “Decai”.*--bind/],
    ['a column that is there already', async () => ['apply', '--gate', gate, '--in', await folder.write('twice.csv', 'Decay,Label\n1,2\n'), '--out', '-'], /twice\.csv, line 1, column 2: The table already has a column “Label”/],
    ['two columns that could be meant', async () => ['apply', '--gate', gate, '--in', await folder.write('two.csv', 'Decay,Decay\n1,2\n'), '--out', '-'], /two\.csv, line 1, column 2: Columns 1 and 2/],
    ['ragged lines', async () => ['apply', '--gate', gate, '--in', await folder.write('ragged.csv', 'a,Decay\n1,2\n3\n'), '--out', '-'], /ragged\.csv, line 3, column 2: Line 3 has 1 value/],
    ['an open quotation mark', async () => ['apply', '--gate', gate, '--in', await folder.write('open.csv', 'a,Decay\n1,"2\n3,4\n'), '--out', '-'], /open\.csv, line 2, column 2: A quotation mark/],
    ['another encoding', async () => ['apply', '--gate', gate, '--in', await folder.write('latin.csv', Buffer.from('a,Decay\nK\xfcche,2\n', 'latin1')), '--out', '-'], /latin\.csv, line 2, column 2: .*is not UTF-8 text/],
    ['a workbook', async () => ['apply', '--gate', gate, '--in', await folder.write('book.csv', Buffer.from('PK\x03\x04xxxx', 'latin1')), '--out', '-'], /workbook/],
    ['an empty table', async () => ['apply', '--gate', gate, '--in', await folder.write('empty.csv', ''), '--out', '-'], /empty\.csv, line 1, column 1: The table is empty/],
    ['no day, where the gate asks for it', async () => ['apply', '--gate', await folder.write('due.json', rulesGate([anInput('Due', 'date')], [['Due < today()', 'late']])), '--in', await folder.write('due.csv', 'Due\n2026-03-01\n'), '--out', '-'], /asks what day it is.*--as-of/],
    ['a conditional that is not understood', async () => ['read', '--from', 'sql', '--in', await folder.write('odd.sql', 'CASE\n  WHEN f(x) > 3 THEN 1 END')], /odd\.sql, line 2, column 8: The function F is not understood/],
    ['a chart of one column', async () => ['read', '--from', 'chart', '--in', await folder.write('one.txt', '50\n60\n')], /one\.txt, line 1: The chart has one column/],
    ['a policy that SQL cannot say', async () => ['convert', '--gate', 'interchange/dmn/testing/every-policy.dmn', '--to', 'sql', '--decision', 'All'], /hit policy “collect” gives a list/],
  ]
  test.each(cases)('%s', async (_, args, message) => {
    const ran = await runCommand(await args())
    expect(ran.err).toMatch(message)
    expect(ran.err).not.toMatch(/\n\s+at /)
    expect(ran.code).toBe(2)
  })

  test('a table that goes wrong in its middle leaves the old result, and nothing beside it', async () => {
    const out = await folder.write('kept.csv', 'old')
    const broken = await folder.write('broken.csv', `Decay\n${'5\n'.repeat(300_000)}5,6\n`)
    const ran = await apply('--in', broken, '--out', out)
    expect(ran).toMatchObject({ code: 2 })
    expect(ran.err).toMatch(/broken\.csv, line 300002, column 2/)
    expect(readFileSync(out, 'utf8')).toBe('old')
    expect((await readdir(dirname(out))).filter((name) => name.endsWith('.part'))).toEqual([])
    expect(existsSync(folder.path('broken.csv'))).toBe(true)
  })
})

test('from the checkout, as the manual says', async () => {
  const { spawnSync } = await import('node:child_process')
  const ran = spawnSync('npm', ['run', '--silent', 'dimegate', '--', 'apply', '--gate', gate, '--in', '-', '--out', '-'], { input: TABLE, encoding: 'utf8' })
  expect({ status: ran.status, out: ran.stdout }).toEqual({ status: 0, out: LABELLED })
})
