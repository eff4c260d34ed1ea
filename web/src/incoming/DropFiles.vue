<script setup lang="ts">
/** Files may be dropped, and cells pasted, anywhere. */
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useNotices } from '../shared/notices'
import { droppedFiles, pastedFile } from './dropped-files'
import { useIncoming } from './incoming'

const router = useRouter()
const notices = useNotices()
const incoming = useIncoming()
const isOver = ref(false)

function take(files: readonly File[]): void {
  // On a table's page it is more of that table, until somebody says otherwise.
  const { name, params } = router.currentRoute.value
  incoming.add(files, name === 'table' ? { tableId: Number(params.id), isReplacing: false } : null)
  void router.push('/bring-in')
}

function over(event: DragEvent): void {
  if (!event.dataTransfer?.types.includes('Files')) return
  event.preventDefault()
  isOver.value = true
}

function leave(event: DragEvent): void {
  if (event.relatedTarget === null) isOver.value = false
}

function drop(event: DragEvent): void {
  if (!event.dataTransfer?.types.includes('Files')) return
  event.preventDefault()
  isOver.value = false
  const { files, refused } = droppedFiles(event.dataTransfer)
  if (refused.length > 0) notices.warn(`${refused.map((name) => `“${name}”`).join(', ')} ${refused.length === 1 ? 'is a folder' : 'are folders'}; drop the files in ${refused.length === 1 ? 'it' : 'them'}.`)
  else if (files.length === 0) notices.warn('That is no file, so nothing was brought in.')
  if (files.length > 0) take(files)
}

function paste(event: ClipboardEvent): void {
  const { target } = event
  if (target instanceof HTMLElement && target.closest('input, textarea, [contenteditable], [data-takes-paste]')) return
  const files = [...(event.clipboardData?.files ?? [])]
  const pasted = files.length > 0 ? files : [pastedFile(event.clipboardData?.getData('text/plain') ?? '')].filter((file) => file !== null)
  if (pasted.length === 0) return
  event.preventDefault()
  take(pasted)
}

onMounted(() => {
  window.addEventListener('dragover', over)
  window.addEventListener('dragleave', leave)
  window.addEventListener('drop', drop)
  window.addEventListener('paste', paste)
})
onBeforeUnmount(() => {
  window.removeEventListener('dragover', over)
  window.removeEventListener('dragleave', leave)
  window.removeEventListener('drop', drop)
  window.removeEventListener('paste', paste)
})
</script>

<template>
  <div v-if="isOver" class="over" aria-hidden="true"><span>Let go to bring it in</span></div>
</template>

<style scoped>
.over { position: fixed; inset: 0; z-index: 3000; display: grid; place-items: end center; padding-bottom: 40px; border: 3px dashed var(--brass); pointer-events: none; }
.over span { padding: 10px 22px; font-size: 16px; font-weight: 600; color: var(--on-brass); background: var(--brass); border-radius: 4px; }
</style>
