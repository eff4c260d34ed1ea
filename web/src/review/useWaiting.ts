/** How many exceptions wait, wherever one is: counted as pages change, and as somebody does something in the review. */
import { reviewSchema } from '@dime-gate/contract/review'
import { type Ref, ref } from 'vue'
import { useRouter } from 'vue-router'
import { ask } from '../shared/api'
import { useReviewMoves } from '../shared/moves'
import { useLater } from '../shared/useLater'
import { tallyOf } from './tally'

/** Milliseconds: whatever else is asked for goes first. */
const PAUSE = 600

export function useWaiting(): Ref<number> {
  const waiting = ref(0)
  const count = useLater(async () => {
    // The rest of the page can be used without.
    const review = await ask(reviewSchema, '/review').catch(() => null)
    if (review) waiting.value = tallyOf(review.counts).waiting
  }, PAUSE)
  useRouter().afterEach((to, from) => void (to.path !== from.path && count()))
  useReviewMoves(count)
  count()
  return waiting
}
