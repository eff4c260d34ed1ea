/** What becomes of a gate that is told in another form, as plain data: the gate with all that it loses, or why it cannot be. */
import type { Gate, HitPolicy } from '../gate/document'

export type FormName = Gate['form']

export type FormChange<Form extends Gate = Gate> = { gate: Form; losses: FormLoss[] } | { refusal: FormRefusal }

/** @property rules by place, from nought */
export type FormLoss =
  /** Words that somebody wrote to rules. */
  | { kind: 'notes'; rules: number[] }
  /** Rules that are switched off, or not written yet. */
  | { kind: 'idle'; rules: number[] }
  /** Rules that never take a record, because those before take it. */
  | { kind: 'unreached'; rules: number[] }
  /** Conditions that were used by name are written out. */
  | { kind: 'names' }
  /** The last rule takes whatever is left: it becomes otherwise. */
  | { kind: 'otherwise'; rule: number }
  /** Folding values stand as they are folded. */
  | { kind: 'spelling' }

export type FormRefusal =
  /** @property most how many inputs the form can be on */
  | { kind: 'inputs'; most: number; found: string[] }
  /** A rule asks something else than where one input lies. */
  | { kind: 'test'; rule: number; text: string }
  | { kind: 'policy'; hitPolicy: HitPolicy }
  /** Values are looked up where the form has stretches, or the other way about. */
  | { kind: 'values'; input: string }
  | { kind: 'stretches'; input: string }
  /** One value by itself gets something else than its neighbours. */
  | { kind: 'alone'; input: string; value: string }
  /** Between two bands lies a stretch that gets nothing. */
  | { kind: 'hole'; input: string; value: string }
  /** Whatever is not named gets a label by a rule. */
  | { kind: 'rest'; input: string }
  /** What a band gives is computed. */
  | { kind: 'computed' }
  /** A record would get something else. @property at its values, in canonical text; null for blank */
  | { kind: 'differs'; at: { input: string; value: string | null }[]; was: Got; would: Got }
  /** The gate has faults that have to be mended first, or nothing to go by. */
  | { kind: 'faulty' }
  | { kind: 'nothing' }

/** A label in canonical text, or what became of the record. */
export type Got = { label: string } | { status: 'unplaced' | 'held' | 'contested' }
