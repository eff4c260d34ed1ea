/** Every place has an address, and the page's title is its name. */
import { createRouter, createWebHistory, type RouteLocationNormalized } from 'vue-router'
import { askAhead } from './shared/api'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'desk', component: () => import('./desk/DeskPage.vue'), meta: { help: 'using' }, props: { shelf: null } },
    ...(['tables', 'gates', 'runs'] as const).map((shelf) => ({ path: `/${shelf}`, name: shelf, component: () => import('./desk/DeskPage.vue'), props: { shelf } })),
    { path: '/bring-in', name: 'bring-in', component: () => import('./incoming/IncomingPage.vue'), meta: { help: 'tables#a-table-comes-in' } },
    { path: '/bring-in-gate', name: 'bring-in-gate', component: () => import('./sources/BringGatePage.vue'), meta: { help: 'conditionals-and-charts' }, props: (route) => ({ on: Number(route.query.on) || null }) },
    { path: '/compare', name: 'compare', component: () => import('./compare/ComparePage.vue'), meta: { help: 'using#side-by-side', hasOwnDate: true }, props: (route) => ({ on: Number(route.query.on) || null, a: String(route.query.a ?? ''), b: String(route.query.b ?? '') }) },
    { path: '/run-gates', name: 'run-gates', component: () => import('./apply/ApplyPage.vue'), meta: { help: 'using#gates-over-tables' } },
    { path: '/tables/:id(\\d+)', name: 'table', component: () => import('./table/TablePage.vue'), meta: { help: 'tables#the-table-s-page' }, props: numericId },
    { path: '/gates/:id(\\d+)', name: 'bench', component: () => import('./bench/BenchPage.vue'), meta: { help: 'using', hasOwnDate: true }, props: (route) => ({ ...numericId(route), on: Number(route.query.on) || null }) },
    { path: '/runs/:id(\\d+)', name: 'run', component: () => import('./run/RunPage.vue'), meta: { help: 'using#a-run' }, props: numericId, beforeEnter: runAhead },
    { path: '/runs/:id(\\d+)/against/:other(\\d+|draft)', name: 'comparison', component: () => import('./comparison/ComparisonPage.vue'), meta: { help: 'using#two-runs' }, props: (route) => ({ ...numericId(route), other: route.params.other === 'draft' ? null : Number(route.params.other) }) },
    { path: '/runs/:id(\\d+)/report', name: 'report', component: () => import('./report/ReportPage.vue'), meta: { help: 'using#the-report' }, props: numericId },
    { path: '/runs/:id(\\d+)/slips', name: 'slips', component: () => import('./slip/SlipsPage.vue'), meta: { help: 'using#slips' }, props: numericId },
    { path: '/runs/:id(\\d+)/slips/print', name: 'slips-on-paper', component: () => import('./slip/SlipsOnPaper.vue'), meta: { isAlone: true }, props: numericId },
    { path: '/slip/:token', name: 'slip', component: () => import('./slip/LinkedSlipPage.vue'), meta: { isAlone: true }, props: true },
    { path: '/try/:token', name: 'try', component: () => import('./trying/LinkedGatePage.vue'), meta: { isAlone: true }, props: true },
    { path: '/review', name: 'review', component: () => import('./review/ReviewPage.vue'), meta: { help: 'using#review' } },
    { path: '/help', redirect: '/help/using' },
    { path: '/help/:name', name: 'help', component: () => import('./help/HelpPage.vue'), props: true },
    { path: '/:anything(.*)*', name: 'nowhere', component: () => import('./shared/NowherePage.vue') },
  ],
})

/** What a run's page asks for first. */
function runAhead({ params, query }: RouteLocationNormalized): void {
  askAhead(`/runs/${String(params.id)}`)
  if (typeof query.by === 'string' && query.shows !== 'decided' && query.shows !== 'tables') askAhead(`/runs/${String(params.id)}/groups/${query.by}?part=${String(query.part ?? 'whole')}`)
}

function numericId(route: { params: Record<string, string | string[]> }): { id: number } {
  return { id: Number(route.params.id) }
}
