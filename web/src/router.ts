import { createRouter, createWebHistory } from 'vue-router'
import BayBoard from './board/BayBoard.vue'
import JobShell from './stages/JobShell.vue'
import BudgetStage from './stages/budget/BudgetStage.vue'
import ChooseStage from './stages/choose/ChooseStage.vue'
import HandOverStage from './stages/handover/HandOverStage.vue'
import IntakeStage from './stages/intake/IntakeStage.vue'
import ReadingsStage from './stages/readings/ReadingsStage.vue'
import AimStage from './stages/aim/AimStage.vue'
import ChecksStage from './stages/checks/ChecksStage.vue'
import HeadlightStage from './stages/headlight/HeadlightStage.vue'
import SignalsStage from './stages/signals/SignalsStage.vue'
import ShopSettings from './settings/ShopSettings.vue'
import NotHere from './ui/NotHere.vue'

export const router = createRouter({
  history: createWebHistory(),
  // A field sought is brought into view by the part that holds it.
  scrollBehavior: (to) => (to.hash.startsWith('#set-') ? false : to.hash ? { el: to.hash, top: 12 } : { top: 0 }),
  routes: [
    { path: '/', name: 'board', component: BayBoard },
    { path: '/shop', name: 'shop', component: ShopSettings },
    {
      path: '/job/:id',
      component: JobShell,
      children: [
        { path: '', redirect: (to) => ({ name: 'budget', params: to.params }) },
        { path: 'intake', name: 'intake', component: IntakeStage },
        { path: 'readings/:subject?', name: 'readings', component: ReadingsStage },
        { path: 'budget', name: 'budget', component: BudgetStage },
        { path: 'choose/:load?', name: 'choose', component: ChooseStage },
        { path: 'signals', name: 'signals', component: SignalsStage },
        { path: 'headlight', name: 'headlight', component: HeadlightStage },
        { path: 'checks', name: 'checks', component: ChecksStage },
        { path: 'aim', name: 'aim', component: AimStage },
        { path: 'hand-over', name: 'hand_over', component: HandOverStage },
      ],
    },
    { path: '/:rest(.*)', component: NotHere },
  ],
})
