/** What a word means, shown with the pointer on it and with the focus; Escape, or leaving it, puts it away (WCAG 2.2, 1.4.13). */
import type { Tray } from '@dime-gate/core/result/tray'
import type { ObjectDirective } from 'vue'
import { meaningOf } from './meanings'

const ID = 'meaning-of-word'
/** Milliseconds that a pointer rests on the word first. */
const REST = 350
const GAP = 6

let shownFor: HTMLElement | null = null
let timer: ReturnType<typeof setTimeout> | undefined

function hide(): void {
  clearTimeout(timer)
  document.getElementById(ID)?.remove()
  shownFor?.removeAttribute('aria-describedby')
  shownFor = null
}

function show(word: HTMLElement): void {
  hide()
  const text = word.dataset.meaning
  if (!text || !word.isConnected) return
  const tip = document.createElement('div')
  Object.assign(tip, { id: ID, className: 'meaning', textContent: text })
  tip.setAttribute('role', 'tooltip')
  ;(document.querySelector('.v-application') ?? document.body).append(tip)
  const [at, own] = [word.getBoundingClientRect(), tip.getBoundingClientRect()]
  const left = Math.min(Math.max(GAP, at.left + at.width / 2 - own.width / 2), window.innerWidth - own.width - GAP)
  const isBelow = at.bottom + GAP + own.height < window.innerHeight
  Object.assign(tip.style, { left: `${left}px`, top: `${isBelow ? at.bottom + GAP : at.top - GAP - own.height}px` })
  word.setAttribute('aria-describedby', ID)
  shownFor = word
}

function rest({ currentTarget }: Event): void {
  clearTimeout(timer)
  timer = setTimeout(() => show(currentTarget as HTMLElement), REST)
}
const seen = ({ currentTarget }: Event) => (currentTarget as HTMLElement).matches(':focus-visible') && show(currentTarget as HTMLElement)
const put = (event: Event) => (!(event instanceof KeyboardEvent) || event.key === 'Escape') && hide()

const say = (word: HTMLElement, tray: Pick<Tray, 'kind'>) => (word.dataset.meaning = meaningOf(tray))

export const vMeaning: ObjectDirective<HTMLElement, Pick<Tray, 'kind'>> = {
  mounted(word, { value }) {
    say(word, value)
    word.addEventListener('pointerenter', rest)
    word.addEventListener('focus', seen)
    for (const leaving of ['pointerleave', 'blur', 'keydown', 'pointerdown']) word.addEventListener(leaving, put)
  },
  updated: (word, { value }) => void say(word, value),
  beforeUnmount: (word) => void (shownFor === word && hide()),
}
