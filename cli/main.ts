/** The command line: files in, files out. */
import { Command, CommanderError, InvalidArgumentError, Option } from 'commander'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { DateValue } from '@dime-gate/core/value/value'
import { ENCODINGS } from '@dime-gate/interchange/table/decode'
import { DELIMITERS, type Delimiter } from '@dime-gate/interchange/table/read-records'
import { apply, type ApplyOptions } from './apply'
import { check, type CheckOptions } from './check'
import { CommandError } from './command-error'
import { read, type ReadOptions, SOURCES } from './read'
import { convert, type ConvertOptions, FORMATS } from './convert'

const USAGE_FAULT = 2

function day(text: string): DateValue {
  const date = parseDate(text)
  if (!date) throw new InvalidArgumentError('Write a day as YYYY-MM-DD, as in 2026-03-02.')
  return date
}

function delimiter(text: string): Delimiter {
  const meant = text === 'tab' || text === '\\t' ? '\t' : text
  if (!(DELIMITERS as readonly string[]).includes(meant)) throw new InvalidArgumentError('Delimiters are , ; | and tab.')
  return meant as Delimiter
}

const collected = (text: string, before: string[]) => [...before, text]

const asOf = () => new Option('--as-of <day>', 'the day that counts as today, YYYY-MM-DD').argParser(day)
const decision = () => new Option('--decision <name>', 'only this gate, and those that it needs')
const gate = () => new Option('--gate <file>', "a gate's JSON document, a library of gates, or a DMN file; - is standard input").makeOptionMandatory()
const bind = () => new Option('--bind <input=column>', 'the column of an input, where it is named differently; repeat it for the members of a column set').argParser(collected).default([], '')

const program = new Command('dimegate').description('Labels records by gates: score bands and combined conditions.')
  .exitOverride().showSuggestionAfterError()

program.command('apply').description('write a table with what the gate gives each record')
  .addOption(gate())
  .requiredOption('--in <table>', 'the table, as delimited text with a line of column names; - is standard input')
  .requiredOption('--out <table>', 'where the labelled table goes; - is standard output')
  .addOption(asOf()).addOption(decision()).addOption(bind())
  .addOption(new Option('--blank <policy>', 'what a blank does, in place of what the gate says').choices(['hold', 'pass']))
  .option('--why', 'write a column that tells why')
  .addOption(new Option('--delimiter <sign>', 'what stands between values: , ; | or tab').argParser(delimiter).default(','))
  .addOption(new Option('--encoding <name>', 'of the table; by default UTF-8, or what its first bytes say').choices(ENCODINGS))
  .addOption(new Option('--decimal-mark <mark>', 'in the numbers of the table').choices(['point', 'comma']).default('point'))
  .addOption(new Option('--date-order <part>', 'what comes first in 3/4/2026; ISO dates are always read').choices(['day', 'month', 'year']).default('day'))
  .action((options: ApplyOptions) => apply(options))

program.command('check').description('tell what is known of a gate before any data; ends with 1 where any finding is an error')
  .addOption(gate()).addOption(asOf()).addOption(decision())
  .option('--json', 'findings as JSON')
  .action((options: CheckOptions) => check(options))

program.command('convert').description('write a gate in another format')
  .addOption(gate()).addOption(new Option('--to <format>', 'the format').choices(FORMATS).makeOptionMandatory())
  .option('--out <file>', 'where it goes; - is standard output', '-')
  .option('--outcome <name>', 'for SQL and OpenFormula: an outcome, or “gate status” or “gate rule”; the label where none is named')
  .addOption(asOf()).addOption(decision()).addOption(bind())
  .action((options: ConvertOptions) => convert(options))

program.command('read').description('make a gate of a nested conditional, or of a chart of thresholds')
  .addOption(new Option('--from <source>', 'what the text is').choices(SOURCES).makeOptionMandatory())
  .requiredOption('--in <file>', 'the text; - is standard input')
  .option('--out <file>', "where the gate's document goes; - is standard output", '-')
  .option('--name <name>', "the gate's name", 'Gate')
  .option('--input <name>', 'for a chart: what its thresholds are on')
  .addOption(asOf())
  .action((options: ReadOptions) => read(options))

try {
  await program.parseAsync()
} catch (error) {
  if (error instanceof CommanderError) process.exitCode = error.exitCode === 0 ? 0 : USAGE_FAULT
  else if (error instanceof CommandError) {
    process.stderr.write(`${error.message}\n`)
    process.exitCode = USAGE_FAULT
  } else throw error
}
