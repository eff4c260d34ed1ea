/** The slips of a run, the sentence on them, and the links by which they are reached. */
import { type GateSentence, gateSentenceSchema, type Link, linksSchema, type Slip, type SlipHead, slipsSchema, type SlipsRequest } from '@dime-gate/contract/slip'
import { computed, ref, shallowRef } from 'vue'
import { ask, askWith, messageOf, RequestProblem } from '../shared/api'
import { useNotices } from '../shared/notices'
import { slipTeller } from './slip-words'

export function useSlips(id: number) {
  const notices = useNotices()
  const head = shallowRef<SlipHead | null>(null)
  const slips = shallowRef<Slip[]>([])
  /** How many there are of those that are asked for; more than can be shown may be. */
  const total = ref(0)
  const kept = shallowRef<GateSentence | null>(null)
  /** As it is being written. */
  const sentence = ref('')
  /** What somebody else wrote meanwhile; null where nobody did. */
  const elsewhere = ref<string | null>(null)
  const links = shallowRef<Link[]>([])
  const trouble = ref('')
  const linkOf = computed(() => new Map(links.value.map((link) => [link.record!, link])))

  async function load(of: SlipsRequest, gateId: number): Promise<void> {
    trouble.value = ''
    try {
      const [found, said, all] = await Promise.all([askWith(slipsSchema, 'POST', `/runs/${id}/slips`, of), ask(gateSentenceSchema, `/gates/${gateId}/sentence`), ask(linksSchema, `/runs/${id}/links`)])
      head.value = found.head
      slips.value = found.slips
      total.value = found.total
      links.value = all
      kept.value = said
      sentence.value = said.sentence
    } catch (error) {
      trouble.value = messageOf(error)
    }
  }

  /** With the sentence as it is being written. */
  const wordsOf = (slip: Slip) => slipTeller({ ...head.value!, sentence: sentence.value }, [slip])(0)

  async function keepSentence(gateId: number): Promise<void> {
    if (!kept.value || kept.value.sentence === sentence.value) return
    try {
      elsewhere.value = null
      kept.value = await askWith(gateSentenceSchema, 'PUT', `/gates/${gateId}/sentence`, { seen: kept.value.version, sentence: sentence.value })
    } catch (error) {
      notices.warn(messageOf(error))
      if (!(error instanceof RequestProblem) || error.problem.code !== 'stale') return
      kept.value = await ask(gateSentenceSchema, `/gates/${gateId}/sentence`).catch(() => kept.value)
      elsewhere.value = kept.value!.sentence
    }
  }

  async function change(make: () => Promise<Link[]>, said: (links: Link[]) => string): Promise<void> {
    try {
      links.value = await make()
      notices.say(said(links.value))
    } catch (error) {
      notices.warn(messageOf(error))
    }
  }
  const makeLinks = (of: SlipsRequest, endsOn: string, said: string) => change(() => askWith(linksSchema, 'POST', `/runs/${id}/links`, { of, endsOn }), () => said)
  const withdraw = (records: number[] | null) => change(() => askWith(linksSchema, 'POST', `/runs/${id}/links/withdrawal`, { records }), () => (records ? 'That link leads nowhere from now on.' : 'All links to slips of this run lead nowhere from now on.'))

  return { head, slips, total, kept, sentence, elsewhere, links, linkOf, trouble, load, wordsOf, keepSentence, makeLinks, withdraw }
}
