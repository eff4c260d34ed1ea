<script setup lang="ts">
/** An expression, with what it could go on with, and what is wrong with it where it is wrong. */
import { acceptCompletion, autocompletion, closeBrackets, closeBracketsKeymap, completionKeymap } from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { type Diagnostic, linter, setDiagnostics } from '@codemirror/lint'
import { EditorState } from '@codemirror/state'
import { Decoration, type DecorationSet, EditorView, keymap, MatchDecorator, ViewPlugin, type ViewUpdate } from '@codemirror/view'
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { nonce } from '../theme'
import { completionsFor, type Name } from './completions'

/** @property trouble where the text is wrong; null ends where it is wrong as a whole */
const props = defineProps<{ label: string; names: Name[]; trouble: { words: string; from: number | null; to: number | null } | null }>()
const text = defineModel<string>({ required: true })
const host = ref<HTMLElement | null>(null)
let view: EditorView | null = null

onMounted(() => {
  view = new EditorView({
    parent: host.value!,
    state: EditorState.create({
      doc: text.value,
      extensions: [
        EditorView.cspNonce.of(nonce()),
        EditorView.lineWrapping,
        EditorView.contentAttributes.of({ 'aria-label': props.label, spellcheck: 'false' }),
        history(),
        closeBrackets(),
        autocompletion({ override: [completed], icons: false, activateOnTyping: true }),
        linter(null),
        coloured(),
        keymap.of([{ key: 'Tab', run: acceptCompletion }, ...closeBracketsKeymap, ...completionKeymap, ...historyKeymap, ...defaultKeymap]),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) text.value = update.state.doc.toString()
        }),
      ],
    }),
  })
  tellTrouble()
})
onBeforeUnmount(() => view?.destroy())

watch(text, (now) => {
  if (view && now !== view.state.doc.toString()) view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: now } })
})
watch(() => props.trouble, tellTrouble)

function tellTrouble(): void {
  if (!view) return
  const { length } = view.state.doc
  const { trouble } = props
  const from = Math.min(trouble?.from ?? 0, Math.max(0, length - 1))
  const all: Diagnostic[] = trouble && length > 0 ? [{ from, to: Math.max(from + 1, Math.min(trouble.to ?? length, length)), severity: 'error', message: trouble.words }] : []
  view.dispatch(setDiagnostics(view.state, all))
}

function completed(context: { pos: number; explicit: boolean; state: EditorState }) {
  const found = completionsFor(context.state.sliceDoc(0, context.pos), props.names, context.explicit)
  if (!found) return null
  return {
    from: found.from,
    filter: false,
    options: found.options.map((one) => ({
      label: one.label,
      detail: one.detail,
      ...(one.info === '' ? {} : { info: one.info }),
      apply: (editor: EditorView, _: unknown, from: number, to: number) =>
        editor.dispatch({ changes: { from, to, insert: one.insert }, selection: { anchor: from + one.insert.length - one.back } }),
    })),
  }
}

/** Functions, numbers and texts, so that the eye finds its way; names are ink. */
function coloured() {
  const matcher = new MatchDecorator({
    regexp: /"(?:[^"\\]|\\.)*"?|\b\d+(?:\.\d+)?\b|\b[a-z][a-z ]*(?=\()/g,
    decoration: ([found]) => Decoration.mark({ class: found.startsWith('"') ? 'expression-text' : /^\d/.test(found) ? 'expression-number' : 'expression-function' }),
  })
  return ViewPlugin.fromClass(
    class {
      decorations: DecorationSet
      constructor(editor: EditorView) {
        this.decorations = matcher.createDeco(editor)
      }
      update(update: ViewUpdate): void {
        this.decorations = matcher.updateDeco(update, this.decorations)
      }
    },
    { decorations: (plugin) => plugin.decorations },
  )
}
</script>

<template>
  <div ref="host" class="expression" :class="{ 'in-trouble': trouble }" />
</template>

<style>
.expression { border: 1px solid var(--hairline); border-left: 3px solid var(--brass); border-radius: 4px; background: var(--sheet); }
.expression.in-trouble { border-left-color: var(--brick); }
.expression .cm-editor.cm-focused { outline: 2px solid var(--brass); outline-offset: 1px; border-radius: 3px; }
.expression .cm-scroller { font-family: var(--figures); font-size: 14px; line-height: 1.6; }
.expression .cm-content { padding: 8px 10px; caret-color: var(--ink); min-height: 40px; }
.expression .cm-cursor { border-left-color: var(--ink); }
.expression-function { color: var(--pine); font-weight: 600; }
.expression-number { color: var(--brass); }
.expression-text { color: var(--second); }
.expression .cm-lintRange-error { background: none; text-decoration: underline wavy var(--brick); text-underline-offset: 4px; }
.expression .cm-tooltip { border: 1px solid var(--ink); border-radius: 4px; background: var(--sheet); color: var(--ink); overflow: hidden; }
.expression .cm-tooltip.cm-tooltip-autocomplete > ul { font-family: var(--text); font-size: 13.5px; max-height: 220px; }
.expression .cm-tooltip.cm-tooltip-autocomplete > ul > li { padding: 3px 10px; min-height: 26px; }
.expression .cm-tooltip-autocomplete ul li[aria-selected] { background: var(--tint); color: var(--ink); }
.expression .cm-completionMatchedText { text-decoration: none; font-weight: 700; }
.expression .cm-completionDetail { font-style: normal; font-family: var(--figures); font-size: 12px; color: var(--second); }
.expression .cm-completionInfo { padding: 6px 10px; font-size: 12.5px; color: var(--second); max-width: 240px; }
.expression .cm-diagnostic-error { border-left: 3px solid var(--brick); font-family: var(--text); font-size: 13px; padding: 4px 8px; }
</style>
