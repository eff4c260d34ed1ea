/** The sentence that a gate says to each record, with names in braces that stand for what the record has: `{Award}, with a mean of {Mean} %.` */

export type SentencePart = { text: string } | { name: string }

/** Two braces of a kind are one that is written. A brace that nothing closes stands for itself. */
export function sentenceParts(sentence: string): SentencePart[] {
  const parts: SentencePart[] = []
  const say = (text: string) => {
    const last = parts.at(-1)
    if (last && 'text' in last) last.text += text
    else if (text !== '') parts.push({ text })
  }
  let from = 0
  for (const { 0: whole, 1: name, index } of sentence.matchAll(/\{\{|\}\}|\{([^{}]*)\}/g)) {
    say(sentence.slice(from, index))
    if (name === undefined) say(whole[0]!)
    else parts.push({ name: name.trim() })
    from = index + whole.length
  }
  say(sentence.slice(from))
  return parts
}

/** Those that stand for nothing, each once. @param known of inputs, outcomes, and columns that say who a record is */
export function unknownNames(sentence: string, known: readonly string[]): string[] {
  return [...new Set(sentenceParts(sentence).flatMap((part) => ('name' in part && !known.includes(part.name) ? [part.name] : [])))]
}

/** @param say what a name stands for, in words */
export function saidSentence(sentence: string, say: (name: string) => string): string {
  return sentenceParts(sentence).map((part) => ('text' in part ? part.text : say(part.name))).join('')
}

/** A name as it stands in a sentence. */
export function placeFor(name: string): string {
  return `{${name}}`
}
