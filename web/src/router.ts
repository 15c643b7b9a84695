import { createRouter, createWebHistory } from 'vue-router'
import AccessPage from './access/AccessPage.vue'
import HistoryPage from './app/HistoryPage.vue'
import JobShell from './app/JobShell.vue'
import BayBoard from './board/BayBoard.vue'
import RecheckTicket from './book/RecheckTicket.vue'
import ShopSettings from './settings/ShopSettings.vue'
import ShelfPage from './shelf/ShelfPage.vue'
import SuppliersPage from './suppliers/SuppliersPage.vue'
import { STAGE_SCREENS, stageFor, stagePath } from './stages/registry'
import NotHere from './ui/NotHere.vue'

export const router = createRouter({
  history: createWebHistory(),
  // A field sought is brought into view by the part that holds it.
  scrollBehavior: (to) => (to.hash.startsWith('#set-') ? false : to.hash ? { el: to.hash, top: 12 } : { top: 0 }),
  routes: [
    { path: '/', name: 'board', component: BayBoard },
    { path: '/shop', name: 'shop', component: ShopSettings },
    { path: '/shelf/:part?', name: 'shelf', component: ShelfPage },
    { path: '/access/:template?', name: 'access', component: AccessPage },
    { path: '/suppliers/:supplier?', name: 'suppliers', component: SuppliersPage },
    { path: '/book', name: 'book', component: () => import('./book/BookPage.vue') },
    { path: '/book/:id', name: 'machine', component: () => import('./book/MachinePage.vue') },
    { path: '/fleet', name: 'fleet', component: () => import('./book/FleetPage.vue') },
    { path: '/rechecks', name: 'rechecks', component: () => import('./book/RechecksPage.vue') },
    { path: '/drills', name: 'drills', component: () => import('./drills/DrillsPage.vue') },
    { path: '/drills/:id', name: 'drill', component: () => import('./drills/DrillPage.vue') },
    { path: '/learnt', name: 'learnt', component: () => import('./learnt/LearntPage.vue') },
    { path: '/learnt/part', name: 'learnt-part', component: () => import('./learnt/PartRecordPage.vue') },
    { path: '/learnt/model', name: 'learnt-model', component: () => import('./learnt/ModelRecordPage.vue') },
    {
      path: '/job/:id',
      component: JobShell,
      children: [
        { path: 'history', name: 'history', component: HistoryPage },
        { path: 'recheck/:recheck', name: 'recheck', component: RecheckTicket },
        { path: '', redirect: (to) => ({ name: stageFor('opening'), params: to.params }) },
        ...STAGE_SCREENS.flatMap(({ key, once = [] }) => once.map((path) => ({ path, redirect: { name: key } }))),
        // The subject is the load, or load and choice, in hand.
        ...STAGE_SCREENS.map(({ key, component }) => ({ path: `${stagePath(key)}/:subject?`, name: key, component })),
      ],
    },
    { path: '/:rest(.*)', component: NotHere },
  ],
})
