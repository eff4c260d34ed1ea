<script setup lang="ts">
/** The documents for users, read where the work is done. */
import { computed, nextTick, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useTitle } from '../shared/useTitle'
import { HELP_PAGES } from './help-pages'
import { helpText } from './help-text'

const props = defineProps<{ name: string }>()
const route = useRoute()
const router = useRouter()

/** By the paths of the documents. */
const DOCUMENTS: Record<string, string> = import.meta.glob('../../../docs/*.md', { query: '?raw', import: 'default', eager: true })
const page = computed(() => HELP_PAGES.find(({ name }) => name === props.name) ?? null)
const text = computed(() => page.value && helpText(DOCUMENTS[`../../../docs/${page.value.name}.md`]!))
useTitle(() => page.value && `Help: ${page.value.title}`)

watch(() => [props.name, route.hash], async () => {
  await nextTick()
  const place = route.hash && document.getElementById(decodeURIComponent(route.hash.slice(1)))
  if (place) place.scrollIntoView()
  else window.scrollTo(0, 0)
}, { immediate: true })

/** Links within help stay in this page; whoever wants another tab gets one. */
function follow(event: MouseEvent): void {
  const link = (event.target as HTMLElement).closest('a')
  const address = link?.getAttribute('href')
  if (!address?.startsWith('/help/') || event.ctrlKey || event.metaKey || event.shiftKey) return
  event.preventDefault()
  void router.push(address)
}
</script>

<template>
  <section class="help">
    <nav aria-label="Pages of help">
      <ul>
        <li v-for="one in HELP_PAGES" :key="one.name">
          <router-link :to="`/help/${one.name}`" :class="{ here: one.name === name }">{{ one.title }}</router-link>
          <ul v-if="one.name === name && text"><li v-for="heading in text.headings" :key="heading.anchor"><router-link :to="`/help/${name}#${heading.anchor}`">{{ heading.words }}</router-link></li></ul>
        </li>
      </ul>
      <p class="second"><kbd>?</kbd> shows the keys of any page</p>
    </nav>
    <!-- eslint-disable-next-line vue/no-v-html -- our own documents, in which HTML is not heeded -->
    <article v-if="text" class="text" @click="follow" v-html="text.html" />
    <article v-else class="text"><h1>There is no such page of help</h1><p>Choose one of those beside this.</p></article>
  </section>
</template>

<style scoped>
.help { display: grid; grid-template-columns: 260px minmax(0, 760px); gap: 48px; padding: 22px 20px 60px; }
nav { position: sticky; top: 22px; align-self: start; max-height: calc(100vh - 44px); overflow-y: auto; }
ul { list-style: none; margin: 0; padding: 0; }
nav a { display: block; padding: 4px 0; color: var(--ink); text-decoration: none; }
nav a:hover { text-decoration: underline; }
nav a.here { font-weight: 700; }
nav ul ul { padding: 0 0 6px 14px; border-left: 2px solid var(--brass); }
nav ul ul a { padding: 3px 0; font-size: 13px; color: var(--second); }
nav kbd { margin: 0 4px 0 0; }
nav p { margin-top: 14px; font-size: 13px; }
.text { font-size: 15.5px; line-height: 1.55; overflow-wrap: anywhere; }
.text :deep(h1) { font-size: 26px; margin-bottom: 10px; }
.text :deep(h2) { margin: 30px 0 8px; padding-bottom: 4px; border-bottom: 1px solid var(--hairline); font-size: 18px; font-weight: 700; color: var(--ink); scroll-margin-top: 14px; }
.text :deep(h3) { margin: 18px 0 4px; font-size: 15.5px; }
.text :deep(p) { margin: 8px 0; }
.text :deep(:is(ul, ol)) { margin: 8px 0; padding-left: 22px; }
.text :deep(ul) { list-style: disc; }
.text :deep(li) { margin: 5px 0; }
.text :deep(code) { font-family: var(--figures); font-size: 13.5px; padding: 1px 4px; background: var(--sheet); border: 1px solid var(--hairline); border-radius: 3px; }
.text :deep(pre) { overflow-x: auto; padding: 10px 12px; background: var(--sheet); border: 1px solid var(--hairline); border-radius: 4px; }
.text :deep(pre code) { padding: 0; background: none; border: 0; }
.text :deep(table) { width: 100%; border-collapse: collapse; margin: 10px 0; font-size: 14.5px; }
.text :deep(:is(th, td)) { padding: 5px 12px 5px 0; text-align: left; vertical-align: top; border-bottom: 1px solid var(--hairline); }
.text :deep(.right) { text-align: right; }
@media (max-width: 760px) {
  .help { grid-template-columns: minmax(0, 1fr); gap: 20px; padding: 14px 12px 40px; }
  nav { position: static; max-height: none; }
}
</style>
