/** A gate as it is asked over HTTP: the line that does it, for one record. */
import { API } from '@dime-gate/contract/api'
import type { GivenRecord } from '@dime-gate/contract/decide'
import { givenInputs, type Question } from '@dime-gate/contract/question'
import type { Input } from '@dime-gate/core/gate/document'

/** @param origin where the program answers, as in `http://127.0.0.1:4571` */
export function httpCall(question: Pick<Question, 'gate' | 'feeding'>, id: number, version: number, origin: string): string {
  const body = JSON.stringify({ records: [sampleRecord(question)], why: true }, null, 2)
  // A quote inside single quotes ends them, stands by itself, and begins them anew (POSIX.1-2024, 2.2.2).
  return `curl -s ${origin}${API}/gates/${id}/versions/${version}/decide \\
  -H 'Content-Type: application/json' \\
  -d '${body.replaceAll("'", "'\\''")}'
`
}

/** An example that is kept with the gate; else a value of its kind for each input. */
function sampleRecord(question: Pick<Question, 'gate' | 'feeding'>): GivenRecord {
  const [kept] = question.gate.examples ?? []
  return Object.fromEntries(givenInputs(question).map((input) => [input.name, kept ? exampleValue(input, kept.values[input.name]) : plainValue(input)]))
}

function exampleValue({ isSet, type }: Input, text: string | undefined): GivenRecord[string] {
  const one = (part: string) => (part === '' ? null : type === 'boolean' ? part === 'true' : type === 'number' && String(Number(part)) === part ? Number(part) : part)
  return isSet ? (text ?? '').split(';').map(one) : one(text ?? '')
}

function plainValue({ isSet, type, expected }: Input): GivenRecord[string] {
  const value = expected?.kind === 'list' ? (expected.values[0] ?? '') : type === 'number' ? Number(expected?.kind === 'range' ? (expected.low?.at ?? expected.high?.at ?? 1) : 1) : type === 'boolean' ? true : type === 'date' ? '2026-03-02' : type === 'text' ? 'text' : null
  return isSet ? [value] : value
}
