import type { StageScreen } from '../registry'
import PlanStage from './PlanStage.vue'

export default { key: 'plan', component: PlanStage } satisfies StageScreen
